import { askForm, askParams } from '../conditions/asks'
import { placedAsks, placedConditions, placedDid, type Group } from '../conditions/document'
import { OPERATORS } from '../conditions/operators'
import { zOtherField } from '../conditions/operators/another-field'
import { zValue, type Value } from '../language/value'
import type { Form, Widget } from '../language/widgets'
import { OBJECTS, type ObjectKind } from '../records/kinds'
import { zTable } from '../tables/table'
import type { RuleDocument } from './document'
import { splitText } from './merge'
import { STEPS } from './steps'
import { personSending } from './steps/send-message/recipients'
import { groupsOf, placedBranches, placedSteps } from './tree'
import { TRIGGERS } from './triggers'
import { zSource } from './value-source'
import { zWhen } from './when'
import { zWho } from './who'

/**
 * What a rule names. It is read off the forms: each widget says what a value that was chosen with it names, so that a
 * new kind of step, trigger or operator is covered by the form it has anyway, and a new widget does not compile
 * without.
 */
export type Reference =
  /** `object` is `null` where a formula names a field of a linked record, of whatever kind. */
  | { readonly to: 'field'; readonly object: ObjectKind | null; readonly key: string }
  /** A value beside the field it is compared with or written to: a choice, a stage, a person, a pipeline. */
  | { readonly to: 'value'; readonly object: ObjectKind; readonly key: string; readonly value: Value }
  | { readonly to: 'stage'; readonly id: string }
  | { readonly to: 'segment'; readonly id: number }
  | { readonly to: 'template'; readonly id: number }
  | { readonly to: 'connection'; readonly id: number }
  | { readonly to: 'activity'; readonly name: string }
  | { readonly to: 'band'; readonly object: ObjectKind; readonly key: string; readonly band: string }
  | { readonly to: 'person'; readonly id: string }
  | { readonly to: 'team'; readonly name: string }

/** A reference with the part of the rule that it stands in. */
export interface PlacedReference {
  readonly reference: Reference
  readonly part: 'trigger' | 'condition' | 'step' | 'branch'
  readonly id: string
  /** Empty for what is said without choosing it. */ readonly param: string
}

type Of<W extends Widget['widget']> = Extract<Widget, { readonly widget: W }>
/** What a value names; `params` are those beside it, `object` the kind of record that the part works on. */
type Reader<W extends Widget['widget']> = (
  value: unknown,
  at: { readonly widget: Of<W>; readonly params: Readonly<Record<string, unknown>>; readonly object: ObjectKind },
) => readonly Reference[]

const nothing = (): readonly Reference[] => []
const isKind = (value: unknown): value is ObjectKind => OBJECTS.some((one) => one === value)
const field = (object: ObjectKind | null, key: unknown): readonly Reference[] =>
  typeof key === 'string' && key !== '' ? [{ to: 'field', object, key }] : []
const values = (object: ObjectKind, key: unknown, given: unknown): readonly Reference[] => {
  const read = zValue.safeParse(given)
  if (typeof key !== 'string' || !read.success || read.data === null) return []
  const all: readonly Value[] = Array.isArray(read.data) ? (read.data as readonly string[]) : [read.data]
  return all.map((value) => ({ to: 'value', object, key, value }))
}
/** The fields that stand in a text, as merge fields. */
const mergedIn = (text: unknown): readonly Reference[] =>
  typeof text === 'string'
    ? splitText(text).flatMap((part) => {
        const [object, key] = 'merge' in part ? part.merge.split('.') : []
        return isKind(object) ? field(object, key) : []
      })
    : []
const several = (given: unknown, read: (one: unknown) => readonly Reference[]): readonly Reference[] =>
  Array.isArray(given) ? given.flatMap(read) : []
const person = (id: unknown): readonly Reference[] =>
  typeof id === 'string' && id !== '' ? [{ to: 'person', id }] : []

const LITERAL = /"((?:[^"\\]|\\.)*)"/g

/** Formulas name a field of their own record by its key, one of a linked record behind a point or inside a filter. */
function formula(text: string, object: ObjectKind): readonly Reference[] {
  const bare = text.replace(LITERAL, '""')
  const inside = [...bare.matchAll(/\[([^\]]*)\]/g)].flatMap(([, words = '']) => words.match(/[A-Za-z]\w*/g) ?? [])
  const own = [...bare.matchAll(/(?<![.\w])[A-Za-z]\w*/g)].map(([key]) => key)
  const literals = [...text.matchAll(LITERAL)].map(([, value]) => value)
  return [
    ...own.flatMap((key) => [...field(object, key), ...literals.flatMap((value) => values(object, key, value))]),
    ...[...bare.matchAll(/\.([A-Za-z]\w*)/g)].flatMap(([, key]) => field(null, key)),
    ...inside.flatMap((key) => field(null, key)),
  ]
}

const READERS: { readonly [W in Widget['widget']]: Reader<W> } = {
  field: (value, { widget, params, object }) => {
    const other = widget.object === undefined ? object : params[widget.object]
    return isKind(other) ? field(other, value) : []
  },
  fields: (value, { object }) => several(value, (one) => field(object, one)),
  otherField: (value, { object }) => {
    const read = zOtherField.safeParse(value)
    return read.success && read.data ? field(read.data.via ?? object, read.data.field) : []
  },
  value: (value, { widget, params, object }) => values(object, params[widget.of], value),
  values: (value, { widget, params, object }) => values(object, params[widget.of], value),
  source: (value, { widget, params, object }) => {
    const read = zSource.safeParse(value)
    if (!read.success) return []
    const source = read.data
    switch (source.from) {
      case 'value':
      case 'add':
        return values(object, params[widget.of], source.value)
      case 'field':
        return field(object, source.field)
      case 'linked':
        return field(source.via, source.field)
      case 'formula':
        return formula(source.text, object)
      case 'today':
      case 'empty':
        return []
    }
  },
  formula: (value, { object }) => (typeof value === 'string' ? formula(value, object) : []),
  stage: (value) =>
    typeof value === 'string' && value !== ''
      ? [
          { to: 'stage', id: value },
          { to: 'field', object: 'deal', key: 'stage' },
        ]
      : [],
  activity: (value) => (typeof value === 'string' && value !== '' ? [{ to: 'activity', name: value }] : []),
  segment: (value) => (typeof value === 'number' ? [{ to: 'segment', id: value }] : []),
  band: (value, { widget, params, object }) => {
    const key = params[widget.of]
    return typeof value === 'string' && typeof key === 'string' ? [{ to: 'band', object, key, band: value }] : []
  },
  sender: (value) => (typeof value === 'string' ? person(personSending(value)) : []),
  phoneField: (value) => field('contact', value),
  connection: (value) => (typeof value === 'number' ? [{ to: 'connection', id: value }] : []),
  readings: () => [],
  template: (value) => (typeof value === 'number' ? [{ to: 'template', id: value }] : []),
  person,
  people: (value) => several(value, person),
  who: (value) => {
    const read = zWho.safeParse(value)
    if (!read.success) return []
    const who = read.data
    if (who.by === 'person') return person(who.person)
    if (who.by === 'turn' || who.by === 'load') return several(who.people, person)
    return (who.by === 'queue' || who.by === 'everyone') && who.team !== null ? [{ to: 'team', name: who.team }] : []
  },
  when: (value, { object }) => {
    const read = zWhen.safeParse(value)
    return read.success && read.data.at === 'field' ? field(object, read.data.field) : []
  },
  table: (value, { object }) => {
    const read = zTable.safeParse(value)
    if (!read.success) return []
    const { inputs, rows } = read.data
    return inputs.flatMap(({ via, field: key }, at) => [
      ...field(via ?? object, key),
      ...rows.flatMap(({ when }) => {
        const cell = when[at]
        if (cell?.is === 'values') return values(via ?? object, key, cell.values)
        return cell?.is === 'band' ? [cell.from, cell.to].flatMap((end) => values(via ?? object, key, end)) : []
      }),
    ])
  },
  mergeText: mergedIn,
  json: mergedIn,
  linkable: nothing,
  stepBefore: nothing,
  lines: nothing,
  pick: nothing,
  toggle: nothing,
  amount: nothing,
  minute: nothing,
  several: nothing,
  recurrence: nothing,
  count: nothing,
  words: nothing,
  questions: nothing,
}

/** What the params of one form name, by the param that names it. */
export const referencesIn = (
  form: Form<Record<string, unknown>>,
  params: object,
  object: ObjectKind,
): readonly { readonly reference: Reference; readonly param: string }[] =>
  Object.entries(form).flatMap(([param, widget]) => {
    const given = params as Readonly<Record<string, unknown>>
    // A widget and its reader are a pair of the table above.
    const read = READERS[widget.widget] as Reader<Widget['widget']>
    return read(given[param], { widget, params: given, object }).map((reference) => ({ reference, param }))
  })

/** What conditions name. */
export const referencesOfGroup = (group: Group, of: ObjectKind): readonly PlacedReference[] => [
  ...placedAsks(group, of).flatMap(({ ask, object }) =>
    referencesIn(askForm(ask), askParams(ask), object).map((one): PlacedReference => ({
      ...one,
      part: 'condition',
      id: ask.id,
    })),
  ),
  ...placedDid(group, of).flatMap(({ did: { id, activity } }): readonly PlacedReference[] =>
    activity === null
      ? []
      : [{ reference: { to: 'activity', name: activity }, part: 'condition', id, param: 'activity' }],
  ),
  ...placedConditions(group, of).flatMap(({ condition, object }): readonly PlacedReference[] => {
    const { id, field: key, op, params } = condition
    const place = { part: 'condition', id } as const
    // The value of an operator belongs to the field that is asked about.
    const found = OPERATORS[op] ? referencesIn(OPERATORS[op].form, { ...params, field: key }, object) : []
    const own: Reference = { to: 'field', object, key }
    return [{ reference: own, ...place, param: 'field' }, ...found.map((one) => ({ ...one, ...place }))]
  }),
]

const known = new WeakMap<RuleDocument, readonly PlacedReference[]>()

/** Everything a rule names, in reading order. */
export function referencesOf(rule: RuleDocument): readonly PlacedReference[] {
  const before = known.get(rule)
  if (before) return before
  const found: PlacedReference[] = []
  for (const { id, kind, params } of rule.triggers)
    for (const one of referencesIn(TRIGGERS[kind].form, params, rule.object))
      found.push({ ...one, part: 'trigger', id })
  for (const { group, object } of groupsOf(rule)) found.push(...referencesOfGroup(group, object))
  for (const { step, object } of placedSteps(rule)) {
    const place = { part: 'step', id: step.id } as const
    for (const one of referencesIn(STEPS[step.kind].form, step.params, object)) found.push({ ...one, ...place })
    for (const key of STEPS[step.kind].about)
      found.push({ reference: { to: 'field', object, key }, ...place, param: '' })
  }
  for (const { branch, of, outer } of placedBranches(rule)) {
    // A path without steps says nothing that would be lost with its value.
    if (branch.value === undefined || branch.steps.length === 0) continue
    for (const { reference } of referencesIn(STEPS[of.kind].form, of.params, outer))
      if (reference.to === 'field' && reference.object !== null)
        for (const value of values(reference.object, reference.key, branch.value))
          found.push({ reference: value, part: 'branch', id: branch.id, param: 'value' })
  }
  known.set(rule, found)
  return found
}
