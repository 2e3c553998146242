import type { Catalogue } from '../fields/catalogue'
import { isEmpty, type Value, type Values } from '../fields/value'
import type { ObjectKind } from '../records/kinds'
import { fieldWord, oneOf, plainSentence, say, sayValue, type SentencePart } from '../rules/sentence'
import type { Condition, Group } from './document'
import type { Moment } from './operator'
import { OPERATORS } from './operators'
import { gapOf } from './reading'

/** One condition with the value it saw, in words of that moment, so that it stays readable after renames. */
export interface Seen {
  readonly id: string
  readonly text: string
  readonly value: string
  readonly holds: boolean
  /** How far off, when the operator can tell. */
  readonly off: string | null
  readonly gap: number | null
}

type Predicate = (values: Values, moment: Moment) => boolean

interface Leaf {
  readonly condition: Condition
  readonly test: Predicate
}

/** A group compiled to closures: built once for a rule's version, asked as often as needed. */
export interface CompiledGroup {
  test: Predicate
  /** Whether each condition holds by itself, in reading order. */
  each(values: Values, moment: Moment): readonly boolean[]
  /** Each condition with the value it saw. */
  explain(values: Values, moment: Moment): readonly Seen[]
  /** The id of the one item of an "all" group that alone keeps the record out; `null` when there is none such. */
  onlyMiss(values: Values, moment: Moment): string | null
  /** Keys of the fields that are looked at. */
  readonly fields: readonly string[]
  readonly conditions: readonly Condition[]
}

function compileCondition(condition: Condition, object: ObjectKind, catalogue: Catalogue): Predicate {
  const field = catalogue.field(object, condition.field)
  const operator = OPERATORS[condition.op]
  // A condition that is not finished holds for nothing, whichever way round it is asked.
  if (!field || !operator.types.includes(field.type) || operator.missing(condition.params).length > 0) return () => false
  const test = operator.compile(condition.params, field)
  const { field: key, not } = condition
  if (operator.asksEmpty) return (values, moment) => test(values[key] ?? null, moment) !== not
  return (values, moment) => {
    const value = values[key]
    return (isEmpty(value) ? false : test(value, moment)) !== not
  }
}

function combine(mode: Group['mode'], tests: readonly Predicate[]): Predicate {
  switch (mode) {
    case 'all': return (values, moment) => tests.every((test) => test(values, moment))
    case 'any': return (values, moment) => tests.length === 0 || tests.some((test) => test(values, moment))
    case 'none': return (values, moment) => !tests.some((test) => test(values, moment))
  }
}

export function compileGroup(group: Group, object: ObjectKind, catalogue: Catalogue): CompiledGroup {
  const leaves: Leaf[] = []
  const build = (node: Group): { readonly test: Predicate; readonly tops: readonly { id: string; test: Predicate }[] } => {
    const tops = node.items.map((item) => {
      if (item.kind === 'group') return { id: item.id, test: build(item).test }
      const test = compileCondition(item, object, catalogue)
      leaves.push({ condition: item, test })
      return { id: item.id, test }
    })
    return { test: combine(node.mode, tops.map((top) => top.test)), tops }
  }
  const { test, tops } = build(group)
  return {
    test,
    each: (values, moment) => leaves.map((leaf) => leaf.test(values, moment)),
    explain: (values, moment) => leaves.map((leaf) => seen(leaf, values, moment, object, catalogue)),
    onlyMiss(values, moment) {
      if (group.mode !== 'all') return null
      const failing = tops.filter((top) => !top.test(values, moment))
      return failing.length === 1 ? (failing[0]?.id ?? null) : null
    },
    fields: [...new Set(leaves.map((leaf) => leaf.condition.field))],
    conditions: leaves.map((leaf) => leaf.condition),
  }
}

function seen(leaf: Leaf, values: Values, moment: Moment, object: ObjectKind, catalogue: Catalogue): Seen {
  const { condition } = leaf
  const holds = leaf.test(values, moment)
  const field = catalogue.field(object, condition.field)
  const value: Value = values[condition.field] ?? null
  const measured = !holds && field !== null && !isEmpty(value) && !condition.not
  return {
    id: condition.id,
    text: plainSentence(conditionSentence(condition, object, catalogue)),
    value: field ? sayValue(value, field, catalogue, values) : 'empty',
    holds,
    off: measured ? OPERATORS[condition.op].distance(value, condition.params, field, catalogue) : null,
    gap: measured ? gapOf(OPERATORS[condition.op].read(condition.params, field, moment), value, moment) : null,
  }
}

/** "its amount is more than € 15,000": the field and the operator are words that can be edited too. */
export function conditionSentence(condition: Condition, object: ObjectKind, catalogue: Catalogue): readonly SentencePart[] {
  const field = catalogue.field(object, condition.field)
  const operator = OPERATORS[condition.op]
  if (!field) return [say(`the ${oneOf(object)}’s `), { param: 'field', text: condition.field || 'field', missing: true }]
  const words = operator.words[condition.not ? 1 : 0]
  return [
    say('its '), { param: 'field', text: fieldWord(field) ?? '' }, say(' '),
    { param: 'op', text: words }, say(' '), ...operator.sentence(condition.params, field, catalogue),
  ]
}
