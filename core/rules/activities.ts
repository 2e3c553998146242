import { z } from 'zod'
import type { Names } from '../fields/names'
import { say, word, type SentencePart } from '../language/sentence'
import { foldText } from '../language/value'
import type { Form } from '../language/widgets'
import { zActivityName, type ActivityName } from '../activities'
import { aOne, OBJECTS, OBJECT_WORDS, oneOf, type RecordKind } from '../records/kinds'
import type { Listen } from '../signals'
import { activityIn, onActivity } from '../signals/activity'
import type { FieldChange } from '../records/record'
import { activityFields, activityValues } from '../activities/fields'
import type { Catalogue } from '../fields/catalogue'
import type { Values } from '../language/value'
import type { ResultSpec } from './result-spec'
import type { StepProblem } from './step'

/** What somebody does, as a trigger starts by it and a step waits for it. */
export interface ActivityParams {
  kind: ActivityName | null
  /** Who does it: the record itself, or one of this kind that is linked to it. */
  by: RecordKind
  /** A part of what it is about, as a page’s address; empty for any. */
  about: string
}

export const ABOUT_MOST = 200

export const ACTIVITY = {
  params: z.strictObject({
    kind: zActivityName.nullable(),
    by: z.enum(OBJECTS),
    about: z.string().max(ABOUT_MOST),
  }),
  form: {
    kind: {
      label: 'Activity',
      widget: 'activity',
      form: 'does',
    },
    by: {
      widget: 'pick',
      options: OBJECTS.map((value) => ({
        value,
        label: OBJECT_WORDS[value].One,
        hint: 'The record itself, or one linked to it.',
      })),
    },
    about: { widget: 'words', most: ABOUT_MOST, label: 'Text it contains' },
  },
  start: { kind: null, by: 'contact', about: '' },
  /** "a contact of the deal visits a page whose address contains “price”". */
  sentence({ kind, by, about }: ActivityParams, { object, catalogue }: Names): readonly SentencePart[] {
    const words = kind === null ? null : catalogue.activities.words(kind)
    return [
      word('by', aOne(by), ''),
      say(by === object ? ' ' : ` of the ${oneOf(object)} `),
      word('kind', words && words.does, 'does something'),
      ...(words
        ? [
            say(' '),
            word(
              'about',
              about.trim() === '' ? `with any ${words.about}` : `whose ${words.about} contains “${about.trim()}”`,
              '',
            ),
          ]
        : []),
    ]
  },
  check: ({ kind }: ActivityParams, { catalogue }: Names): readonly StepProblem[] =>
    kind === null
      ? [{ param: 'kind', problem: { code: 'missing', what: 'activity' } }]
      : catalogue.activities.active(kind)
        ? []
        : [{ param: 'kind', problem: { code: 'unknownActivity', name: catalogue.activities.words(kind).one } }],
} as const satisfies {
  readonly form: Form<ActivityParams>
  readonly start: ActivityParams
  readonly [part: string]: unknown
}

/** What is listened to; `late` where also what is told of late counts. Nothing before an activity is chosen. */
export const activitySignals = ({ kind, by }: ActivityParams, late: boolean): readonly Listen[] =>
  kind === null ? [] : onActivity(kind, by, late)

/** Whether what happened is what is listened to: the letters of the text, without case and accents. */
export function isActivity({ kind, by, about }: ActivityParams, changes: readonly FieldChange[]): boolean {
  const found = activityIn(changes)
  return found !== null && found.kind === kind && found.by === by && foldText(found.about).includes(foldText(about))
}

/** "Ada Lind visited a page: /prices", or "a contact visited a page: /prices" of one that is linked. */
export function sayActivity(changes: readonly FieldChange[], { catalogue }: Pick<Names, 'catalogue'>): string {
  const found = activityIn(changes)
  if (!found) return 'something happened'
  const { who, by, kind, about } = found
  return `${who || aOne(by)} ${catalogue.activities.words(kind).did}${about === '' ? '' : `: ${about}`}`
}

/** A value of an activity is called the same among the results of a rule, without the kind before it. */
const ofActivity = (key: string): string => key.slice(key.indexOf('.') + 1)

/** What an activity tells to the steps further down. */
export function toldBy(
  kind: ActivityName | null,
  { activities }: Pick<Catalogue, 'activities'>,
): readonly ResultSpec[] {
  const told = kind === null ? null : activities.get(kind)
  const fields = told ? activityFields(told, 'contact') : []
  return fields.map(({ key, label, type, choices }) => ({
    key: ofActivity(key),
    label,
    type,
    choices,
    from: 'activity',
  }))
}

/** The values of those. */
export const toldValues = (done: Parameters<typeof activityValues>[0]): Values =>
  Object.fromEntries(Object.entries(activityValues(done)).map(([key, value]) => [ofActivity(key), value]))
