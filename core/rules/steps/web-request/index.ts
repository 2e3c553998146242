import { z } from 'zod'
import { readingField, readValue, zReadings, type Reading } from '../../../web/reading'
import { fillJson, jsonProblem } from '../../../web/json'
import { METHODS, REQUEST_OUTCOMES, type Method } from '../../../web/request'
import { summaryOf } from '../../../effects/wrote'
import type { Names } from '../../../fields/names'
import { listOf } from '../../../language/counts'
import { extra, say, word } from '../../../language/sentence'
import type { Value } from '../../../language/value'
import { onReply, replyIn } from '../../../signals/reply'
import { checkText, fillText, mergeParts, splitText, valueOfMerge } from '../../merge'
import type { StepContext, StepProblem } from '../../step'
import { defineAwait } from '../awaiting'

interface Params {
  connection: number | null
  method: Method
  /** Behind the address of the connection; merge fields are escaped. */
  path: string
  /** JSON, with merge fields in its texts; empty for none. */
  body: string
  readings: readonly Reading[]
  /**
   * Whether the answer is what the service answers at once, or what it sends later to the address that it was given.
   */
  answer: 'now' | 'later'
}

const PATH_MOST = 1000
const BODY_MOST = 20_000

const ANSWERS = [
  { value: 'now', label: 'it is answered' },
  { value: 'later', label: 'its answer is sent later' },
]

const withBody = (method: Method): boolean => method !== 'GET' && method !== 'DELETE'

/** What is sent, from the record: the path escaped, the body with its structure as it was written. */
export function requestFor({ method, path, body }: Params, { record, related, catalogue }: StepContext) {
  const fill = (text: string): string => fillText(text, record, related, catalogue)
  const escaped = splitText(path)
    .map((part) => ('merge' in part ? encodeURIComponent(fill(`{{${part.merge}}}`)) : part.text))
    .join('')
  const whole = (text: string): Value | undefined => {
    const [only, ...more] = splitText(text)
    return only && more.length === 0 && 'merge' in only && only.or === undefined
      ? valueOfMerge(only.merge, record, related, catalogue)
      : undefined
  }
  return { path: escaped, body: withBody(method) && body.trim() !== '' ? fillJson(body, whole, fill) : null }
}

/** Every text inside the JSON, for what is wrong with its merge fields. */
function textsIn(body: string): readonly string[] {
  const texts: string[] = []
  fillJson(
    body,
    () => undefined,
    (text) => {
      texts.push(text)
      return text
    },
  )
  return texts
}

/** Asks a service outside, and goes on with what it answered. */
export const webRequest = defineAwait<'webRequest', Params>({
  kind: 'webRequest',
  does: 'send a web request and wait for the answer',
  category: 'outside',
  alsoCalled: ['webhook', 'http', 'api', 'integration', 'service', 'json', 'order system'],
  params: z.strictObject({
    connection: z.int().positive().nullable(),
    method: z.enum(METHODS),
    path: z.string().max(PATH_MOST),
    body: z.string().max(BODY_MOST),
    readings: zReadings,
    // Rules from before know only the one.
    answer: z.enum(['now', 'later']).default('now'),
  }),
  form: {
    connection: { widget: 'connection' },
    method: { widget: 'pick', label: 'Method', options: METHODS.map((value) => ({ value, label: value })) },
    path: { label: 'Path', widget: 'mergeText', lines: 'one', most: PATH_MOST },
    body: { label: 'Body (JSON)', widget: 'json', most: BODY_MOST },
    readings: { widget: 'readings' },
    answer: { widget: 'pick', label: 'Answer', options: ANSWERS },
  },
  start: { connection: null, method: 'POST', path: '', body: '', readings: [], answer: 'now' },
  opening({ connection, method, path, body, readings }, names) {
    const chosen = connection === null ? null : names.catalogue.connection(connection)
    return {
      said: [
        say('send '),
        word('method', method, ''),
        say(' to '),
        word('connection', connection === null ? null : (chosen?.name ?? 'a connection that is gone'), 'connection'),
        say(', '),
        extra('path', path === '' ? 'at its address' : `at ${path}`, path === ''),
        say(readings.length > 0 ? ', and read ' : ', '),
        extra(
          'readings',
          readings.length > 0 ? listOf(readings.map(({ label }) => label)) : 'nothing from the answer',
          readings.length === 0,
        ),
      ],
      texts: withBody(method)
        ? [{ break: true }, ...mergeParts('body', body, extra('body', 'no body', true), names)]
        : [],
    }
  },
  ends: ['if it is accepted', 'if it is refused or not answered in time'],
  endOf: ({ outcome }) => (outcome === 'taken' ? 0 : 1),
  sentence: ({ answer }) => [word('answer', ANSWERS.find(({ value }) => value === answer)?.label ?? null, '')],
  check: ({ connection, method, path, body, readings }, { catalogue, object }: Names) => {
    const problems: StepProblem[] = []
    const chosen = connection === null ? null : catalogue.connection(connection)
    if (!chosen || chosen.archived)
      problems.push({ param: 'connection', problem: { code: 'missing', what: 'connection' } })
    for (const problem of checkText(path, object, catalogue)) problems.push({ param: 'path', problem })
    if (path !== '' && !path.startsWith('/')) problems.push({ param: 'path', problem: { code: 'noSlash' } })
    if (withBody(method) && body.trim() !== '') {
      const wrong = jsonProblem(body)
      if (wrong !== null) problems.push({ param: 'body', problem: { code: 'notJson', said: wrong } })
      else
        for (const text of textsIn(body))
          for (const problem of checkText(text, object, catalogue)) problems.push({ param: 'body', problem })
    }
    if (new Set(readings.map(({ key }) => key)).size !== readings.length)
      problems.push({ param: 'readings', problem: { code: 'sameReading' } })
    return problems
  },
  first(params, context) {
    const { connection, method, answer } = params
    if (connection === null || !context.catalogue.connection(connection))
      return { none: { code: 'own', say: 'the connection does not exist any more' } }
    const request = { connection, method, ...requestFor(params, context), ...(answer === 'later' && { later: true }) }
    return { effects: [{ effect: 'request', request }] }
  },
  signals: (_params, _names, wrote) =>
    wrote.flatMap((one) => {
      const { request } = summaryOf(one)
      return request === undefined ? [] : [onReply(request)]
    }),
  comes: () => true,
  content: {
    gives: ({ readings }) => [
      { key: 'outcome', label: 'request outcome', type: 'choice', choices: REQUEST_OUTCOMES },
      { key: 'status', label: 'status of the answer', type: 'number' },
      ...readings.map(({ key, label, type }) => ({ key, label, type })),
    ],
    of({ changes }, { catalogue, object }, { readings }) {
      const { outcome, status, text } = replyIn(changes)
      const read = outcome === 'taken' ? readings : []
      return {
        gives: {
          outcome,
          status,
          ...Object.fromEntries(
            read.map((one) => [one.key, readValue(one, text, readingField(one, object), catalogue)]),
          ),
        },
        say:
          outcome === 'taken'
            ? `accepted${status === null ? '' : ` (${status})`}`
            : `not accepted${status === null ? '' : ` (${status})`}: ${text.slice(0, 200)}`,
      }
    },
  },
  examples: [
    {
      say: 'sends what the record holds, in its types',
      params: {
        connection: 1,
        method: 'POST',
        path: '/orders/{{deal.name}}',
        body: '{"name":"{{deal.name}}","amount":"{{deal.amount}}","note":"for {{deal.name}}"}',
        readings: [{ key: 'number', label: 'order number', type: 'text', path: '$.order.number' }],
        answer: 'now',
        most: { count: 2, unit: 'workdays' },
        recheck: true,
      },
      record: { name: 'Two "rooms"', amount: 1200 },
      expect: {
        go: 'wait',
        effects: [
          {
            effect: 'request',
            request: {
              connection: 1,
              method: 'POST',
              path: '/orders/Two%20%22rooms%22',
              body: '{"name":"Two \\"rooms\\"","amount":1200,"note":"for Two \\"rooms\\""}',
            },
          },
        ],
      },
    },
  ],
})
