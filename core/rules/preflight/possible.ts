import { compileGroup } from '../../conditions/compile'
import { isAsk, type Condition, type Group, type Item } from '../../conditions/document'
import { OPERATORS } from '../../conditions/operators'
import { alone } from '../../conditions/subject'
import type { Catalogue } from '../../fields/catalogue'
import type { Field } from '../../fields/field'
import { FIELD_TYPES } from '../../fields/types'
import type { Value, Values } from '../../language/value'
import type { ObjectKind } from '../../records/kinds'
import { addDays, isDate, startOfDate } from '../../time/dates'
import { namedSpan, shiftDate, SPAN_NAMES, SPAN_UNITS, type SpanUnit } from '../../time/spans'
import type { Moment } from '../../conditions/moment'

/**
 * Whether conditions can hold at all. Every operator answers alike between its borders, so it is enough to ask the
 * conditions themselves for each border, its neighbours and what is empty. What hangs on linked records, on another
 * field, on the value before the change or on parts of texts cannot be gone through and is left out, always so that
 * what is then said to be impossible is.
 */

const MOST = 20_000

/** Operators that look at parts of a text or list, of which there is no end. */
const ENDLESS: ReadonlySet<string> = new Set(['contains', 'includes', 'standing'])

function strict(item: Item, object: ObjectKind, catalogue: Catalogue): boolean {
  if (item.kind === 'linked' || item.kind === 'did' || isAsk(item)) return false
  if (item.kind === 'group') return item.items.every((one) => strict(one, object, catalogue))
  const field = catalogue.field(object, item.field)
  const operator = OPERATORS[item.op]
  if (!field || item.at === 'before' || 'other' in item.params || ENDLESS.has(item.op)) return false
  return (
    operator.types.includes(field.type) &&
    operator.missing(item.params).length === 0 &&
    (FIELD_TYPES[field.type].widget !== 'choices' || operator.asksEmpty)
  )
}

export const isStrict = (group: Group, object: ObjectKind, catalogue: Catalogue): boolean =>
  strict(group, object, catalogue)

/** What must hold in any case for the group to hold, of what can be gone through. */
export function necessary(group: Group, object: ObjectKind, catalogue: Catalogue): Group {
  if (group.mode === 'any') return isStrict(group, object, catalogue) ? group : { ...group, items: [] }
  const items = group.items.flatMap((item): Item[] => {
    if (item.kind === 'group' && group.mode === 'all') return [necessary(item, object, catalogue)]
    return strict(item, object, catalogue) ? [item] : []
  })
  return { ...group, items }
}

function fieldsIn(group: Group): readonly string[] {
  return group.items.flatMap((item) =>
    item.kind === 'condition' ? [item.field] : item.kind === 'group' ? fieldsIn(item) : [],
  )
}

function conditionsOf(group: Group, key: string): readonly Condition[] {
  return group.items.flatMap((item) =>
    item.kind === 'condition'
      ? item.field === key
        ? [item]
        : []
      : item.kind === 'group'
        ? conditionsOf(item, key)
        : [],
  )
}

/** Every plain value anywhere in a part. */
const leaves = (part: unknown): readonly (string | number | boolean)[] =>
  typeof part === 'string' || typeof part === 'number' || typeof part === 'boolean'
    ? [part]
    : typeof part === 'object' && part !== null
      ? Object.values(part).flatMap(leaves)
      : []

function daysOf(found: readonly (string | number | boolean)[], { today, calendar }: Moment): readonly string[] {
  const days = new Set<string>([
    today,
    addDays(today, -1),
    addDays(today, 1),
    addDays(today, -4000),
    addDays(today, 4000),
  ])
  const around = (day: string) => [-1, 0, 1].forEach((by) => days.add(addDays(day, by)))
  for (const one of found) {
    if (typeof one === 'string' && isDate(one)) around(one)
    if (typeof one === 'number' && Number.isInteger(one) && one <= 3650)
      for (const unit of SPAN_UNITS as readonly SpanUnit[])
        for (const sign of [-1, 1]) around(shiftDate(today, sign * one, unit, calendar))
    const span = SPAN_NAMES.find((name) => name === one)
    if (span) {
      const { from, to } = namedSpan(span, today)
      around(from)
      if (to !== null) around(to)
    }
  }
  return [...days]
}

/** Values of a field between which conditions answer differently, empty among them where it may be. */
function candidates(
  field: Field,
  conditions: readonly Condition[],
  catalogue: Catalogue,
  moment: Moment,
): readonly Value[] {
  const found = conditions.flatMap((one) => leaves(one.params))
  const numbers = found.filter((one) => typeof one === 'number')
  const empty: readonly Value[] = field.required ? [] : [null]
  switch (FIELD_TYPES[field.type].widget) {
    case 'number':
      return [...empty, -1e12, 1e12, 0, ...numbers.flatMap((one) => [one - 1e-3, one, one + 1e-3])]
    case 'date':
      return [...empty, ...daysOf(found, moment)]
    case 'dateTime':
      return [
        ...empty,
        ...daysOf(found, moment).flatMap((day) => [
          startOfDate(day, moment.zone),
          startOfDate(addDays(day, 1), moment.zone) - 1,
        ]),
        ...numbers.flatMap((one) => [one - 1, one, one + 1]),
      ]
    case 'yesNo':
      return [...empty, true, false]
    case 'choice':
      return [...empty, ...field.choices.map((choice) => choice.id)]
    case 'stage':
      return [...empty, ...catalogue.allStages().map((stage) => stage.id)]
    case 'pipeline':
      return [...empty, ...catalogue.pipelines.map((pipeline) => pipeline.id)]
    case 'person':
      return [...empty, ...catalogue.people.map((person) => person.id)]
    case 'choices':
      return [...empty, field.choices.slice(0, 1).map((choice) => choice.id)]
    case 'text':
    case 'longText':
      return [...empty, 'any other text', ...found.filter((one) => typeof one === 'string')]
  }
}

/** Every combination of values that matters for the groups; `null` when there are too many. `fixed` are known ones. */
export function combinations(
  groups: readonly Group[],
  object: ObjectKind,
  catalogue: Catalogue,
  moment: Moment,
  fixed: Values = {},
): readonly Values[] | null {
  let all: readonly Values[] = [fixed]
  for (const key of new Set(groups.flatMap(fieldsIn))) {
    const field = catalogue.field(object, key)
    if (!field || key in fixed) continue
    const some = [
      ...new Set(
        candidates(
          field,
          groups.flatMap((group) => conditionsOf(group, key)),
          catalogue,
          moment,
        ),
      ),
    ]
    if (all.length * some.length > MOST) return null
    all = all.flatMap((values) => some.map((value) => ({ ...values, [key]: value })))
  }
  return all
}

export interface Possible {
  /** Whether the group can hold at all. */
  readonly ever: boolean
  /** Whether it can fail. */
  readonly always: boolean
}

/** Goes through a group that is strict; `null` when there is too much to go through. */
export function goThrough(
  group: Group,
  object: ObjectKind,
  catalogue: Catalogue,
  moment: Moment,
  fixed: Values = {},
): Possible | null {
  const all = combinations([group], object, catalogue, moment, fixed)
  if (!all) return null
  const compiled = compileGroup(group, object, catalogue)
  const held = all.filter((values) => compiled.test(alone(values), moment)).length
  return { ever: held > 0, always: held === all.length }
}

export const allOf = (...items: readonly Item[]): Group => ({ kind: 'group', id: 'preflight', mode: 'all', items })
