import { OBJECTS } from '../../../records/kinds'
import { z } from 'zod'
import type { Effect } from '../../../effects'
import type { Outcome } from '../../../engine/outcome'
import { checkText, fillText, mergeParts } from '../../merge'
import { defineStep, type StepProblem } from '../../step'
import { checkWho, chooseAll, OWNER, sayWho, zWho, type Who } from '../../who'
import { say, word, extra } from '../../../language/sentence'

interface Params {
  who: Who
  subject: string
  body: string
  /** Whether a mail goes out as well. */
  email: boolean
}

const SUBJECT_MOST = 200
const BODY_MOST = 4000
const cut = (text: string, most: number): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text)

/** Tells a colleague: in the app, and by mail when wanted. */
export const notify = defineStep<'notify', Params>({
  kind: 'notify',
  category: 'people',
  does: 'notify a colleague',
  alsoCalled: ['notify', 'inform', 'alert', 'message', 'bell', 'internal mail'],
  objects: [...OBJECTS, 'none'],
  params: z.strictObject({
    who: zWho,
    subject: z.string().max(SUBJECT_MOST),
    body: z.string().max(BODY_MOST),
    email: z.boolean(),
  }),
  form: {
    who: { widget: 'who', owner: true, everyone: true },
    subject: { widget: 'mergeText', lines: 'one', most: SUBJECT_MOST },
    body: { widget: 'mergeText', lines: 'many', most: BODY_MOST },
    email: { widget: 'toggle', on: 'in the app and by email', off: 'in the app only' },
  },
  start: { who: OWNER, subject: '', body: '', email: false },
  sentence: ({ who, subject, body, email }, names) => [
    say('notify '),
    word('who', sayWho(who, names.object, names.catalogue), 'someone'),
    say(' '),
    extra('email', email ? 'in the app and by email' : 'in the app only', !email),
    { break: true },
    say('“'),
    ...mergeParts('subject', subject, word('subject', null, 'subject'), names),
    say('”'),
    { break: true },
    ...mergeParts('body', body, extra('body', 'add a message', true), names),
  ],
  check({ who, subject, body }, names) {
    const { catalogue, object } = names
    const problems: StepProblem[] = []
    const wrong = checkWho(who, names, { everyone: true })
    if (wrong) problems.push({ param: 'who', problem: wrong })
    if (subject.trim() === '') problems.push({ param: 'subject', problem: { code: 'missing', what: 'subject' } })
    for (const problem of checkText(subject, object, catalogue)) problems.push({ param: 'subject', problem })
    for (const problem of checkText(body, object, catalogue)) problems.push({ param: 'body', problem })
    return problems
  },
  run({ who, subject, body, email }, context): Outcome {
    const { catalogue, moment, record, related } = context
    const chosen = chooseAll(who, record.values, moment.today, context)
    if ('none' in chosen) return { go: 'skip', reason: chosen.none }
    const fill = (text: string, most: number) => cut(fillText(text, record, related, catalogue).trim(), most)
    const about = fill(subject, SUBJECT_MOST).replace(/\s+/g, ' ')
    const said = fill(body, BODY_MOST)
    const effects = chosen.people.flatMap((person): Effect[] => [
      { effect: 'notice', personId: person.id, subject: about, body: said },
      ...(email
        ? [
            {
              effect: 'message' as const,
              message: { channel: 'mail' as const, recipient: person.email, subject: about, body: said },
              ...(who.by === 'everyone' ? { each: person.id } : {}),
            },
          ]
        : []),
    ])
    if (chosen.turn) effects.push({ effect: 'turn' })
    const [first, ...more] = chosen.people
    return { go: 'on', effects, gives: { who: more.length > 0 ? null : (first?.id ?? null) } }
  },
  gives: () => [{ key: 'who', label: 'person notified', type: 'person' }],
  examples: [
    {
      say: 'tells the owner, by email as well',
      params: { who: { by: 'owner' }, subject: 'Look at {{deal.name}}', body: '', email: true },
      record: { name: 'Two rooms', owner: 'rosa' },
      expect: {
        go: 'on',
        effects: [
          { effect: 'notice', personId: 'rosa', subject: 'Look at Two rooms', body: '' },
          {
            effect: 'message',
            message: { channel: 'mail', recipient: 'rosa@larkmoor.example', subject: 'Look at Two rooms', body: '' },
          },
        ],
      },
    },
    {
      say: 'tells someone who is named',
      params: { who: { by: 'person', person: 'jude' }, subject: 'x', body: 'y', email: false },
      expect: { go: 'on', effects: [{ effect: 'notice', personId: 'jude', subject: 'x', body: 'y' }] },
    },
    {
      say: 'has no one to tell',
      params: { who: { by: 'owner' }, subject: 'x', body: '', email: false },
      record: { owner: null },
      expect: { go: 'skip', reason: { code: 'nobody', field: 'Owner' } },
    },
  ],
})
