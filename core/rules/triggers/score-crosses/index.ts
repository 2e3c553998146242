import { bandField } from '../../../scoring/card'
import { nounOf } from '../../../language/counts'
import { z } from 'zod'
import type { Field } from '../../../fields/field'
import type { Value, Values } from '../../../language/value'
import { standsBy } from '../../standing'
import { defineTrigger } from '../../trigger'
import { onValue } from '../../../signals/field'
import { onScore } from '../../../signals/score'
import { say, word, type SentencePart } from '../../../language/sentence'
import { aOne } from '../../../records/kinds'
import type { Names } from '../../../fields/names'
import { fieldWord, sayValue } from '../../../fields/say-value'

const HOW = ['past', 'below', 'by', 'band'] as const
type How = (typeof HOW)[number]
const HOW_WORDS: { readonly [K in How]: string } = {
  past: 'reaches',
  below: 'falls below',
  by: 'changes at once by',
  band: 'enters the band',
}

interface Params {
  field: string | null
  how: How
  points: number
  /** How far it must have gone back before it counts again. */ margin: number
  band: string | null
}

const scoreOf = ({ field: key }: Pick<Params, 'field'>, { catalogue, object }: Names): Field | null => {
  const field = key === null ? null : catalogue.field(object, key)
  return field?.made?.by === 'score' && field.made.part === 'points' ? field : null
}

/**
 * Whether a score that crosses a line now had gone back far enough since it crossed it the last time. A score that was
 * never beyond it has; one that jitters around the line has not.
 */
function wentBack({ how, points, margin }: Params, past: Iterable<Value>): boolean {
  const far =
    how === 'past'
      ? (value: number): boolean => value < points - margin
      : (value: number): boolean => value >= points + margin
  const beyond =
    how === 'past' ? (value: number): boolean => value >= points : (value: number): boolean => value < points
  for (const value of past) {
    if (typeof value !== 'number') return true
    if (margin === 0 || far(value)) return true
    if (beyond(value)) return false
  }
  return true
}

export const scoreCrosses = defineTrigger<'scoreCrosses', Params>({
  kind: 'scoreCrosses',
  does: 'a score reaches a limit',
  hint: 'Counts once each time the limit is reached. With a margin, the score must first move back by that much before it counts again.',
  objects: ['contact', 'company'],
  params: z.strictObject({
    field: z.string().max(100).nullable(),
    how: z.enum(HOW),
    points: z.int().min(-100_000).max(100_000),
    margin: z.int().min(0).max(1000),
    band: z.string().max(40).nullable(),
  }),
  form: {
    field: { widget: 'field', writable: false, made: 'score' },
    how: { widget: 'pick', options: HOW.map((value) => ({ value, label: HOW_WORDS[value] })) },
    points: { widget: 'count', min: -100_000, max: 100_000 },
    margin: { widget: 'count', min: 0, max: 1000 },
    band: { widget: 'band', of: 'field' },
  },
  start: { field: null, how: 'past', points: 40, margin: 5, band: null },
  sentence(params, names) {
    const field = scoreOf(params, names)
    const { how, points, margin, band } = params
    const parts: SentencePart[] = [
      say(`${aOne(names.object)}’s `),
      word('field', fieldWord(field), 'score'),
      say(' '),
      word('how', HOW_WORDS[how], ''),
    ]
    if (how === 'band') {
      const bands = field ? names.catalogue.field(names.object, bandField(field.key))?.choices : undefined
      return [...parts, say(' '), word('band', bands?.find((one) => one.id === band)?.label ?? null, 'a band')]
    }
    parts.push(say(' '), word('points', String(points), '…'))
    if (how === 'by') return [...parts, say(` ${nounOf(points, 'point')} or more`)]
    return [
      ...parts,
      say(', again only once it was '),
      word(
        'margin',
        margin === 0
          ? how === 'past'
            ? 'below that'
            : 'back up to that'
          : `${margin} ${how === 'past' ? 'below' : 'above'} that`,
        '…',
      ),
    ]
  },
  check(params, names) {
    const field = scoreOf(params, names)
    if (!field) return [{ param: 'field', problem: { code: 'missing', what: 'score' } }]
    if (
      params.how === 'band' &&
      !names.catalogue.field(names.object, bandField(field.key))?.choices.some((one) => one.id === params.band)
    )
      return [{ param: 'band', problem: { code: 'missing', what: 'band' } }]
    return params.how === 'by' && params.points < 1 ? [{ param: 'points', problem: { code: 'leastPoints' } }] : []
  },
  listen: ({ field, how, band }) =>
    field === null ? [] : how === 'band' ? (band === null ? [] : [onValue(bandField(field), band)]) : [onScore(field)],
  compile(params) {
    const { field, how, points, band } = params
    if (field === null) return () => false
    if (how === 'band')
      return (event) => event.changes.some((change) => change.field === bandField(field) && change.new === band)
    return (event, past) => {
      const change = event.changes.find((one) => one.field === field)
      if (!change || typeof change.new !== 'number') return false
      const [old, now] = [typeof change.old === 'number' ? change.old : null, change.new]
      if (how === 'by') return old !== null && Math.abs(now - old) >= points
      const crosses =
        how === 'past' ? now >= points && (old === null || old < points) : now < points && old !== null && old >= points
      return crosses && wentBack(params, [old, ...(past?.(field) ?? [])])
    }
  },
  // Where it went beyond a line or back over it counts later, though nothing starts now.
  heeds({ how, points, margin }, { old, new: now }) {
    if (how === 'band') return true
    if (typeof old !== 'number' || typeof now !== 'number') return true
    if (how === 'by') return Math.abs(now - old) >= points
    const lines = [points, how === 'past' ? points - margin : points + margin]
    return lines.some((line) => old >= line !== now >= line)
  },
  stands(params, names) {
    const field = scoreOf(params, names)
    const { how, points, band } = params
    if (!field || how === 'by') return null
    if (how === 'band') {
      const bands = names.catalogue.field(names.object, bandField(field.key))
      const label = bands?.choices.find((one) => one.id === band)?.label
      return bands && label ? standsBy(bands, 'is', { value: band }, { say: `in the band ${label}` }) : null
    }
    const below = how === 'below'
    return standsBy(
      field,
      'lessThan',
      { value: points },
      {
        not: !below,
        say: `with a score of ${below ? 'less than' : 'at least'} ${points}`,
      },
    )
  },
  after: ({ field, how, band }): Values => (field !== null && how === 'band' ? { [bandField(field)]: band } : {}),
  because({ field: key, how }, event, { catalogue, object }) {
    const name = how === 'band' && key !== null ? bandField(key) : key
    const field = name === null ? null : catalogue.field(object, name)
    const change = event.changes.find((one) => one.field === name)
    return field && change
      ? `${fieldWord(field)} changed from ${sayValue(change.old, field, catalogue)} to ${sayValue(change.new, field, catalogue)}`
      : 'the score changed'
  },
  examples: [
    {
      say: 'rises past it',
      object: 'contact',
      params: { field: 'interest', how: 'past', points: 40, margin: 5, band: null },
      event: { kind: 'changed', changes: [{ field: 'interest', old: 32, new: 41 }] },
      starts: true,
    },
    {
      say: 'reaches it',
      object: 'contact',
      params: { field: 'interest', how: 'past', points: 40, margin: 0, band: null },
      event: { kind: 'changed', changes: [{ field: 'interest', old: 39.9, new: 40 }] },
      starts: true,
    },
    {
      say: 'was past it already',
      object: 'contact',
      params: { field: 'interest', how: 'past', points: 40, margin: 0, band: null },
      event: { kind: 'changed', changes: [{ field: 'interest', old: 40, new: 60 }] },
      starts: false,
    },
    {
      say: 'falls below it',
      object: 'contact',
      params: { field: 'interest', how: 'below', points: 10, margin: 0, band: null },
      event: { kind: 'changed', changes: [{ field: 'interest', old: 10, new: 9.5 }] },
      starts: true,
    },
    {
      say: 'changes by much at once',
      object: 'contact',
      params: { field: 'interest', how: 'by', points: 20, margin: 0, band: null },
      event: { kind: 'changed', changes: [{ field: 'interest', old: 30, new: 10 }] },
      starts: true,
    },
    {
      say: 'changes by little',
      object: 'contact',
      params: { field: 'interest', how: 'by', points: 20, margin: 0, band: null },
      event: { kind: 'changed', changes: [{ field: 'interest', old: 30, new: 11 }] },
      starts: false,
    },
    {
      say: 'comes into a band',
      object: 'contact',
      params: { field: 'interest', how: 'band', points: 0, margin: 0, band: 'warm' },
      event: {
        kind: 'changed',
        changes: [
          { field: 'interest', old: 5, new: 20 },
          { field: 'interestBand', old: 'cold', new: 'warm' },
        ],
      },
      starts: true,
    },
    {
      say: 'another score',
      object: 'contact',
      params: { field: 'interest', how: 'past', points: 40, margin: 0, band: null },
      event: { kind: 'changed', changes: [{ field: 'fit', old: 32, new: 41 }] },
      starts: false,
    },
  ],
})
