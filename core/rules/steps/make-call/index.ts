import { z } from 'zod'
import { CALL_ENDS, CALL_OUTCOMES, type CallAsks } from '../../../asks/call'
import { fieldWord } from '../../../fields/say-value'
import { count } from '../../../language/counts'
import type { SkipReason } from '../../../language/reasons'
import { extra, say, word } from '../../../language/sentence'
import { nextDecent } from '../../../messages/hours'
import { canWriteFrom } from '../../../messages/letter'
import type { RecordSnapshot } from '../../../records/record'
import { answersIn, outcomeIn } from '../../../signals/task'
import { sayCount, sayZone } from '../../../time/moments'
import { sayInstant } from '../../../time/say'
import { fillText } from '../../merge'
import type { StepContext, StepProblem } from '../../step'
import { defineAwait, ownTasks } from '../awaiting'
import {
  ASKED_FORM,
  ASKED_SHAPE,
  ASKED_START,
  askedOf,
  askedWords,
  checkAsked,
  type AskedParams,
} from '../create-task/asked'
import { addressOf, hoursOfContact, recipientsOf } from '../send-message/recipients'

const CALLERS = ['person', 'dialler'] as const
const PAUSE_UNITS = ['minutes', 'hours'] as const
const MINUTE_MS = 60_000
const PAUSE_MS = { minutes: MINUTE_MS, hours: 60 * MINUTE_MS } as const
const TRIES_MOST = 20

interface Params extends AskedParams {
  /** Whether somebody calls, or the dialler does by itself. */
  by: (typeof CALLERS)[number]
  /** The field with the number; whether any other number of theirs will do. */
  phone: string
  otherPhone: boolean
  /** How often it is tried at most, and how long lies between two tries. */
  tries: number
  pause: { count: number; unit: (typeof PAUSE_UNITS)[number] }
}

const START: Params = {
  ...ASKED_START,
  title: 'Call {{contact.name}}',
  due: { count: 0, unit: 'workdays' },
  by: 'person',
  phone: 'phone',
  otherPhone: true,
  tries: 3,
  pause: { count: 2, unit: 'hours' },
}

/** Whom to call under which number, or why nobody. */
function calleeOf(
  params: Params,
  context: StepContext,
):
  { readonly none: SkipReason } | { readonly contact: RecordSnapshot; readonly name: string; readonly number: string } {
  const [contact] = recipientsOf({ to: 'main', role: '' }, context)
  if (!contact) return { none: { code: 'noLinks', to: 'contact' } }
  const name = String(contact.values.name ?? 'the contact')
  const { address, field } = addressOf(contact, 'voice', params, context)
  if (address === null) return { none: { code: 'noAddress', name, field } }
  return { contact, name, number: address }
}

/** Calls the customer, by a colleague or by the dialler, as often as it takes, and goes on with what came of it. */
export const makeCall = defineAwait<'makeCall', Params>({
  kind: 'makeCall',
  does: 'call the customer and wait for how it went',
  category: 'outside',
  alsoCalled: ['phone', 'ring', 'dial', 'telephone', 'voicemail'],
  params: z.strictObject({
    ...ASKED_SHAPE,
    by: z.enum(CALLERS),
    phone: z.string().max(100),
    otherPhone: z.boolean(),
    tries: z.int().min(1).max(TRIES_MOST),
    pause: z.strictObject({ count: z.int().min(1).max(1000), unit: z.enum(PAUSE_UNITS) }),
  }),
  form: {
    ...ASKED_FORM,
    by: {
      widget: 'pick',
      label: 'Caller',
      options: [
        { value: 'person', label: 'a colleague', hint: 'gets a task with the number and the script' },
        { value: 'dialler', label: 'the dialler', hint: 'places it by itself' },
      ],
    },
    phone: { widget: 'phoneField' },
    otherPhone: { widget: 'toggle', on: 'or another number of theirs', off: 'no other number' },
    tries: { widget: 'count', min: 1, max: TRIES_MOST, label: 'Tries' },
    pause: { widget: 'amount', min: 1, max: 1000, units: PAUSE_UNITS, note: 'Only as long as no one was reached.' },
  },
  start: START,
  opening(params, names) {
    const { by, phone, otherPhone, tries, pause } = params
    const field = names.catalogue.field('contact', phone)
    const how = [
      say(', '),
      extra('phone', `at ${fieldWord(field) ?? phone}`, phone === 'phone'),
      say(', '),
      extra('otherPhone', otherPhone ? 'or another number of theirs' : 'no other number', otherPhone),
      say(', '),
      word('tries', tries === 1 ? 'once' : `at most ${count(tries, 'time')}`, ''),
      ...(tries === 1 ? [] : [say(', '), word('pause', `${sayCount(pause.count, pause.unit)} apart`, '')]),
    ]
    const { said, texts } = askedWords(params, '', how, names, 'add a script')
    return {
      said: [
        say('call the contact by '),
        word('by', by === 'person' ? 'a colleague' : 'the dialler', ''),
        // Who has to, and until when, is of no matter to a machine.
        ...(by === 'person' ? [say(': '), ...said] : how),
      ],
      texts,
    }
  },
  ends: ['if the call was made', 'if it was not made in time'],
  sentence: () => [say('it was made')],
  check(params, names) {
    const { phone } = params
    const problems: StepProblem[] = [...checkAsked(params, names)]
    if (!canWriteFrom(names.object))
      problems.push({ param: 'phone', problem: { code: 'notLinked', object: names.object, to: 'contact' } })
    if (names.catalogue.field('contact', phone)?.type !== 'phone')
      problems.push({ param: 'phone', problem: { code: 'unknownField', field: phone } })
    return problems
  },
  first(params, context) {
    const callee = calleeOf(params, context)
    if ('none' in callee) return callee
    const { contact, name, number } = callee
    const { nowMs } = context.moment
    const { zone, hours } = hoursOfContact(contact, context)
    const decentMs = nextDecent(nowMs, zone, hours)
    if (decentMs > nowMs)
      return {
        instead: {
          go: 'hold',
          dueMs: decentMs,
          say: `for ${name} it is ${sayInstant(nowMs, zone)} (${sayZone(zone)}); the call is placed on ${sayInstant(decentMs, zone)} their time`,
        },
      }
    const asks: CallAsks = {
      about: 'call',
      contact: { object: 'contact', id: contact.id },
      name,
      number,
      script: fillText(params.notes, context.record, context.related, context.catalogue).trim(),
      automatic: params.by === 'dialler',
      attempt: 1,
      most: params.tries,
      pauseMs: params.pause.count * PAUSE_MS[params.pause.unit],
      notBeforeMs: null,
    }
    const made = askedOf({ ...params, ...(asks.automatic ? { email: false } : {}) }, 'call', asks, context)
    if ('none' in made || !asks.automatic) return made
    return {
      effects: made.effects.map((one) =>
        one.effect === 'task' ? { ...one, task: { ...one.task, assigneeId: null, queue: null, remindAt: null } } : one,
      ),
    }
  },
  signals: (_params, _names, wrote) => ownTasks(wrote),
  comes: () => true,
  content: {
    gives: () => [
      { key: 'outcome', label: 'call outcome', type: 'choice', choices: CALL_OUTCOMES },
      { key: 'ended', label: 'way the call ended', type: 'choice', choices: CALL_ENDS },
      { key: 'notes', label: 'call notes', type: 'longText' },
      { key: 'minutes', label: 'call length in minutes', type: 'number' },
    ],
    of: ({ changes }) => ({ gives: answersIn(changes), say: outcomeIn(changes) || 'made' }),
  },
  examples: [
    {
      say: 'gives the owner the number and the script',
      object: 'contact',
      params: {
        ...START,
        notes: 'Ask {{contact.firstName or "them"}} about the units.',
        most: { count: 2, unit: 'workdays' },
        recheck: true,
      },
      record: { name: 'Vera Lima', phone: '+351912000123', owner: 'rosa' },
      expect: {
        go: 'wait',
        dueMs: Date.UTC(2026, 10, 26, 9, 12),
        effects: [
          {
            effect: 'task',
            task: {
              ref: { object: 'contact', id: 1 },
              title: 'Call Vera Lima',
              notes: 'Ask Vera about the units.',
              taskKind: 'call',
              priority: 'normal',
              due: '2026-11-24',
              assigneeId: 'rosa',
              queue: null,
              remindAt: null,
              asks: {
                about: 'call',
                contact: { object: 'contact', id: 1 },
                name: 'Vera Lima',
                number: '+351912000123',
                script: 'Ask Vera about the units.',
                automatic: false,
                attempt: 1,
                most: 3,
                pauseMs: 7_200_000,
                notBeforeMs: null,
              },
            },
          },
        ],
      },
    },
    {
      say: 'has no number to call',
      object: 'contact',
      params: { ...START, otherPhone: false, most: { count: 2, unit: 'workdays' }, recheck: true },
      record: { name: 'Vera Lima', owner: 'rosa' },
      expect: { go: 'skip', reason: { code: 'noAddress', name: 'Vera Lima', field: 'phone' } },
    },
  ],
})
