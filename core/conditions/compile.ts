import type { Catalogue } from '../fields/catalogue'
import { isEmpty, type Value, type Values } from '../language/value'
import { sayWorth } from '../money/say'
import { worthIn } from '../money/worth'
import { type ObjectKind, oneOf } from '../records/kinds'
import { didHolds, didSentence, sayDid } from './did'
import { objectWithin, type Ask, type Condition, type Group, type Item, type Leaf } from './document'
import { askSentence, formulaTest, sayAsked } from './asks'
import { canAsk, linkedHolds, linkedSentence, sayLinked } from './linked'
import { OPERATORS } from './operators'
import { gapOf } from './reading'
import type { Subject } from './subject'
import { plainSentence, say, type SentencePart } from '../language/sentence'
import { fieldWord } from '../fields/say-value'
import type { Moment } from './moment'

/** One condition with the value it saw, in words of that moment, so that it stays readable after renames. */
export interface Seen {
  readonly id: string
  readonly text: string
  readonly value: string
  readonly holds: boolean
  /** How far off, when the operator can tell. */
  readonly off: string | null
  readonly gap: number | null
  /** Set for a question about linked records: the value tells how many of them do. */
  readonly linked?: true
}

type Predicate = (subject: Subject, moment: Moment) => boolean
const never: Predicate = () => false

/** A condition, or a question about linked records as a whole. */
interface CompiledLeaf {
  readonly item: Leaf
  readonly test: Predicate
  /** For linked records: what is asked of each. */
  readonly inner: Predicate | null
}

/** A group compiled to closures: built once for a rule's version, asked as often as needed. */
export interface CompiledGroup {
  test: Predicate
  /** Whether each condition holds by itself, in reading order. */
  each(subject: Subject, moment: Moment): readonly boolean[]
  /** Each condition with the value it saw. */
  explain(subject: Subject, moment: Moment): readonly Seen[]
  /** The id of the one item of an "all" group that alone keeps the record out; `null` when there is none such. */
  onlyMiss(subject: Subject, moment: Moment): string | null
  /** Keys of the record's own fields that are looked at. */
  readonly fields: readonly string[]
  /** Conditions and questions about linked records, in the order of `each` and `explain`. */
  readonly leaves: readonly Leaf[]
}

function compileCondition(condition: Condition, object: ObjectKind, catalogue: Catalogue): Predicate {
  const field = catalogue.field(object, condition.field)
  const operator = OPERATORS[condition.op]
  // A condition that is not finished holds for nothing, whichever way round it is asked.
  if (!field || !operator.types.includes(field.type) || operator.missing(condition.params).length > 0)
    return () => false
  const test = operator.compile(condition.params, field, catalogue)
  const { field: key, not } = condition
  // Whether something is there is asked of what stands there; everything else of what it is worth.
  const read = operator.asksEmpty ? (values: Values): Value => values[key] ?? null : worthIn(field, catalogue)
  const valueOf =
    condition.at === 'before'
      ? (subject: Subject): Value => read(subject.before ?? subject.values)
      : (subject: Subject): Value => read(subject.values)
  if (operator.asksEmpty) return (subject, moment) => test(valueOf(subject), moment, subject) !== not
  return (subject, moment) => {
    const value = valueOf(subject)
    return (isEmpty(value) ? false : test(value, moment, subject)) !== not
  }
}

function combine(mode: Group['mode'], tests: readonly Predicate[]): Predicate {
  switch (mode) {
    case 'all':
      return (subject, moment) => tests.every((test) => test(subject, moment))
    case 'any':
      return (subject, moment) => tests.length === 0 || tests.some((test) => test(subject, moment))
    case 'none':
      return (subject, moment) => !tests.some((test) => test(subject, moment))
  }
}

function compileAsk(ask: Ask, object: ObjectKind, catalogue: Catalogue, within: readonly number[]): Predicate {
  const { not } = ask
  if (ask.kind === 'formula') {
    const test = formulaTest(ask.text, object, catalogue)
    return test ? (subject, moment) => test(subject, moment) !== not : () => false
  }
  const segment = ask.segment === null ? null : catalogue.segment(ask.segment)
  // One that comes back to itself holds for nothing; it is refused where it is written.
  if (!segment || segment.object !== object || within.includes(segment.id)) return () => false
  const { test } = compileGroup(segment.filter, object, catalogue, [...within, segment.id])
  return (subject, moment) => test(subject, moment) !== not
}

/** `within` are the segments whose filter this is a part of. */
export function compileGroup(
  group: Group,
  object: ObjectKind,
  catalogue: Catalogue,
  within: readonly number[] = [],
): CompiledGroup {
  const leaves: CompiledLeaf[] = []
  const one = (item: Item): Predicate => {
    if (item.kind === 'group') return build(item).test
    const inner =
      item.kind === 'linked' || item.kind === 'did'
        ? compileGroup(item.group, objectWithin(item), catalogue, within).test
        : null
    const test: Predicate =
      item.kind === 'condition'
        ? compileCondition(item, object, catalogue)
        : item.kind === 'did'
          ? (subject, moment) => didHolds(item, object, subject, inner ?? never, moment)
          : item.kind !== 'linked'
            ? compileAsk(item, object, catalogue, within)
            : canAsk(item, object) && inner
              ? (subject, moment) => linkedHolds(item, subject.linked(item.object), inner, moment)
              : () => false
    leaves.push({ item, test, inner })
    return test
  }
  const build = (
    node: Group,
  ): { readonly test: Predicate; readonly tops: readonly { id: string; test: Predicate }[] } => {
    const tops = node.items.map((item) => ({ id: item.id, test: one(item) }))
    return {
      test: combine(
        node.mode,
        tops.map((top) => top.test),
      ),
      tops,
    }
  }
  const { test, tops } = build(group)
  return {
    test,
    each: (subject, moment) => leaves.map((leaf) => leaf.test(subject, moment)),
    explain: (subject, moment) => leaves.map((leaf) => seen(leaf, subject, moment, object, catalogue)),
    onlyMiss(subject, moment) {
      if (group.mode !== 'all') return null
      const failing = tops.filter((top) => !top.test(subject, moment))
      return failing.length === 1 ? (failing[0]?.id ?? null) : null
    },
    fields: [...new Set(leaves.flatMap(({ item }) => (item.kind === 'condition' ? [item.field] : [])))],
    leaves: leaves.map((leaf) => leaf.item),
  }
}

function seen(
  { item, test, inner }: CompiledLeaf,
  subject: Subject,
  moment: Moment,
  object: ObjectKind,
  catalogue: Catalogue,
): Seen {
  const holds = test(subject, moment)
  if (item.kind === 'linked') {
    const records = subject.linked(item.object)
    const fit = inner ? records.filter((record) => inner(record, moment)).length : 0
    return {
      id: item.id,
      text: sayItem(item, object, catalogue),
      value: sayLinked(item, fit, records.length),
      holds,
      off: null,
      gap: null,
      linked: true,
    }
  }
  if (item.kind === 'did') {
    const value = sayDid(item, object, subject, inner ?? never, moment, catalogue.activities)
    return { id: item.id, text: sayItem(item, object, catalogue), value, holds, off: null, gap: null, linked: true }
  }
  if (item.kind !== 'condition') {
    const text = sayItem(item, object, catalogue)
    return { id: item.id, text, value: sayAsked(item, holds), holds, off: null, gap: null }
  }
  const field = catalogue.field(object, item.field)
  const values = item.at === 'before' ? (subject.before ?? subject.values) : subject.values
  const value: Value = field ? worthIn(field, catalogue)(values) : null
  const measured = !holds && field !== null && !isEmpty(value) && !item.not
  return {
    id: item.id,
    text: sayItem(item, object, catalogue),
    value: field ? sayWorth(field, values, catalogue) : 'empty',
    holds,
    off: measured ? OPERATORS[item.op].distance(value, item.params, field, catalogue) : null,
    gap: measured ? gapOf(OPERATORS[item.op].read(item.params, field, moment, catalogue), value, moment) : null,
  }
}

/** Whose field it is: “its” for the record that is spoken of, “the” behind a “where”. */
export type Subjective = 'its' | 'the'

/** "its amount is more than € 15,000": the field and the operator are words that can be edited too. */
export function conditionSentence(
  condition: Condition,
  object: ObjectKind,
  catalogue: Catalogue,
  subject: Subjective = 'its',
): readonly SentencePart[] {
  const field = catalogue.field(object, condition.field)
  const operator = OPERATORS[condition.op]
  if (!field)
    return [say(`the ${oneOf(object)}’s `), { param: 'field', text: condition.field || 'field', missing: true }]
  const words = operator.words[condition.not ? 1 : 0]
  return [
    say(`${subject} `),
    ...(condition.at === 'before' ? [{ param: 'at', text: 'previous' }, say(' ')] : []),
    { param: 'field', text: fieldWord(field) ?? '' },
    say(' '),
    { param: 'op', text: words },
    say(' '),
    ...operator.sentence(condition.params, field, catalogue),
  ]
}

/** An item in plain words; what is asked of linked records stands in brackets behind it. */
export function sayItem(item: Item, object: ObjectKind, catalogue: Catalogue, subject: Subjective = 'its'): string {
  switch (item.kind) {
    case 'condition':
      return plainSentence(conditionSentence(item, object, catalogue, subject))
    case 'group':
      return `(${sayGroup(item, object, catalogue, subject)})`
    case 'inSegment':
    case 'formula':
      return plainSentence(askSentence(item, object, catalogue, subject))
    case 'did':
    case 'linked': {
      const said = plainSentence(
        item.kind === 'did' ? didSentence(item, object, catalogue) : linkedSentence(item, object, catalogue),
      )
      const of = objectWithin(item)
      return item.group.items.length === 0
        ? said
        : `${said} ${item.group.items.length === 1 ? sayGroup(item.group, of, catalogue, 'the') : `(${sayGroup(item.group, of, catalogue, 'the')})`}`
    }
  }
}

/** A group in plain words. */
export function sayGroup(group: Group, object: ObjectKind, catalogue: Catalogue, subject: Subjective = 'its'): string {
  const parts = group.items.map((item) => sayItem(item, object, catalogue, subject))
  if (group.mode === 'none') return `none of these: ${parts.join('; ')}`

  return parts.join(group.mode === 'all' ? ' and ' : ' or ')
}
