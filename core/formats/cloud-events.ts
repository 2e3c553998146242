import { z } from 'zod'
import { ACTIVITY_NAMES, zActivityName, type ActivityName } from '../activities'
import { zValue, type Values } from '../language/value'
import { OBJECTS, type RecordKind } from '../records/kinds'

/** An activity as an event in the format of CloudEvents 1.0 (CNCF): the attributes of section 3.1, and extensions. */
export const zCloudEvent = z.looseObject({
  specversion: z.literal('1.0'),
  id: z.string().min(1).max(150).describe('with `source` the key by which it is stored only once'),
  source: z.string().max(150).regex(/^\S+$/, 'The source is a URI without blanks.'),
  type: z.string().min(1).max(200).describe('ends with the kind: `visit`, or `org.example.visit`'),
  subject: z.string().min(1).max(300).describe('a contact’s email, or a record such as `deal/7`'),
  time: z.iso.datetime({ offset: true, error: 'Enter a time such as 2026-11-24T09:12:00Z.' }).optional(),
  datacontenttype: z
    .string()
    .regex(/^application\/(?:[\w.+-]+\+)?json\b/i, 'The data must be JSON.')
    .optional(),
  data: z.looseObject({ about: z.string().trim().max(500).default('').describe('page, form or subject') }).optional(),
})
export type CloudEvent = z.infer<typeof zCloudEvent>

export interface EventActivity {
  readonly ref?: { readonly object: RecordKind; readonly id: number }
  readonly email?: string
  readonly kind: ActivityName
  readonly about: string
  readonly data: Values
  readonly atMs: number | null
  readonly key: string
}

/** The activity that an event tells of, or the attribute that keeps it from being one and why. */
export function activityOfEvent(
  event: CloudEvent,
): { readonly activity: EventActivity } | { readonly wrong: 'type' | 'subject' | 'data'; readonly text: string } {
  const last = event.type.split('.').at(-1) ?? ''
  // One of the workspace’s own is written as it is called; whether there is one is asked where it is kept.
  const kind = ACTIVITY_NAMES.find((one) => one.toLowerCase() === last.toLowerCase()) ?? last
  if (!zActivityName.safeParse(kind).success)
    return { wrong: 'type', text: `The type ends with none of ${ACTIVITY_NAMES.join(', ')}, or one of your own.` }
  const [, object, id] = /^(\w+)\/(\d{1,15})$/.exec(event.subject) ?? []
  const known = OBJECTS.find((one) => one === object)
  if (!known && !event.subject.includes('@'))
    return { wrong: 'subject', text: 'Enter an email address, or a record such as “deal/7”.' }
  const { about = '', ...more } = event.data ?? {}
  const data = z.record(z.string(), zValue).safeParse(more)
  if (!data.success) return { wrong: 'data', text: 'Only texts, numbers, yes or no, and lists of texts.' }
  return {
    activity: {
      ...(known ? { ref: { object: known, id: Number(id) } } : { email: event.subject }),
      kind,
      about,
      data: data.data,
      atMs: event.time === undefined ? null : Date.parse(event.time),
      // The two together name an event (section 3.1.1); a blank is in no URI reference.
      key: `${event.source} ${event.id}`,
    },
  }
}
