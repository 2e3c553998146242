import type { Condition, Group } from '../conditions/document'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { sayValue, fieldWord } from '../fields/say-value'
import { count, figure } from '../language/counts'
import { capital } from '../language/nouns'
import type { Value } from '../language/value'
import { aOne, type RecordKind } from '../records/kinds'
import { blankRule, type RuleDocument, type Step, type Trigger } from '../rules/document'
import { STEPS } from '../rules/steps'
import { OWNER } from '../rules/who'
import { isBeyond } from './search'
import type { Habit } from './habit'
import { CREATED, DID } from './reading'

/** A habit in words, and as a rule that does the same. */

/** The one thing that people do by hand which is no change of a field. */
const CALLED = `${DID}call`

interface Item {
  readonly field: Field
  readonly value: Value
  readonly label: boolean
}

/** What an item says of a field; `null` where it is about none that there still is. */
function readItem(item: string, object: RecordKind, catalogue: Catalogue): Item | null {
  const [, key = '', sign, value = ''] = /^([^=+]+)([=+])(.*)$/.exec(item) ?? []
  const field = sign === undefined ? undefined : catalogue.field(object, key)
  if (!field) return null
  return { field, value: field.type === 'yesNo' ? value === 'true' : value, label: sign === '+' }
}

const MINUTE_MS = 60_000
/** "1 hour", "2 days". */
export const saySpan = (ms: number): string =>
  ms < 24 * 60 * MINUTE_MS
    ? count(Math.round(ms / (60 * MINUTE_MS)), 'hour')
    : count(Math.round(ms / (1440 * MINUTE_MS)), 'day')

function sayAfter(after: Habit['after'], object: RecordKind, catalogue: Catalogue): string | null {
  if (isBeyond(after)) {
    const field = catalogue.field(object, after.field)
    return field
      ? `the ${fieldWord(field)} of ${aOne(object)} is set above ${sayValue(after.above, field, catalogue)}`
      : null
  }
  if (after === CREATED) return `${aOne(object)} is created`
  if (after.startsWith(DID)) return `${aOne(object)} ${catalogue.activities.words(after.slice(DID.length)).does}`
  const item = readItem(after, object, catalogue)
  if (!item) return null
  if (item.field.key === 'stage') return `${aOne(object)} enters ${sayValue(item.value, item.field, catalogue)}`
  return item.label
    ? `${aOne(object)} gets “${sayValue([String(item.value)], item.field, catalogue)}”`
    : `the ${fieldWord(item.field)} of ${aOne(object)} becomes ${sayValue(item.value, item.field, catalogue)}`
}

function sayThen(then: string, object: RecordKind, catalogue: Catalogue): string | null {
  if (then === CALLED) return 'someone calls'
  if (then.startsWith(DID)) return null
  const item = readItem(then, object, catalogue)
  if (!item) return null
  const said = sayValue(item.label ? [String(item.value)] : item.value, item.field, catalogue)
  if (item.label) return `someone adds “${said}”`
  return item.field.key === 'stage' ? `someone moves it to ${said}` : `someone sets ${fieldWord(item.field)} to ${said}`
}

/** "After a deal enters Quoted, someone adds “call” within 2 days (31 of 38 deals)."; `null` for what is no more. */
export function sayHabit(habit: Habit, object: RecordKind, catalogue: Catalogue): string | null {
  const [after, then] = [sayAfter(habit.after, object, catalogue), sayThen(habit.then, object, catalogue)]
  return after === null || then === null
    ? null
    : `After ${after}, ${then} within ${saySpan(habit.withinMs)} (${figure(habit.followed)} of ${count(habit.of, object)}).`
}

const where = (condition: Pick<Condition, 'field' | 'op' | 'params'>): Group => ({
  kind: 'group',
  id: 'c1',
  mode: 'all',
  items: [{ kind: 'condition', id: 'c2', not: false, ...condition }],
})

/** When the rule starts; with what it has to ask, since a new record may have the value from the beginning. */
function begin(
  after: Habit['after'],
  object: RecordKind,
  catalogue: Catalogue,
): { readonly triggers: readonly Trigger[]; readonly conditions?: Group } | null {
  const created: Trigger = { id: 't2', kind: 'created', params: {} }
  if (isBeyond(after)) {
    if (!catalogue.field(object, after.field)) return null
    return {
      triggers: [
        { id: 't1', kind: 'fieldChanges', params: { field: after.field, how: 'past', from: null, to: after.above } },
        created,
      ],
      conditions: where({ field: after.field, op: 'moreThan', params: { value: after.above } }),
    }
  }
  if (after === CREATED) return { triggers: [{ id: 't1', kind: 'created', params: {} }] }
  if (after.startsWith(DID))
    return {
      triggers: [
        {
          id: 't1',
          kind: 'activity',
          params: { kind: after.slice(DID.length), by: object, about: '', late: false },
        },
      ],
    }
  const item = readItem(after, object, catalogue)
  if (!item) return null
  const { field, value, label } = item
  if (label)
    return {
      triggers: [
        { id: 't1', kind: 'labelChanges', params: { labels: [String(value)], how: 'added', field: field.key } },
      ],
    }
  if (field.key === 'stage') return { triggers: [{ id: 't1', kind: 'entersStage', params: { stage: value } }] }
  return {
    triggers: [
      { id: 't1', kind: 'fieldChanges', params: { field: field.key, how: 'to', from: null, to: value } },
      created,
    ],
    conditions: where({ field: field.key, op: 'is', params: { value } }),
  }
}

/** The step that does it; `null` where none of ours can. */
function stepFor(then: string, object: RecordKind, catalogue: Catalogue): Step | null {
  if (then === CALLED)
    return {
      id: 's1',
      kind: 'createTask',
      params: { ...STEPS.createTask.start, title: `Call {{${object}.name}}`, taskKind: 'call', who: OWNER },
    }
  const item = readItem(then, object, catalogue)
  if (!item || item.field.keptBy) return null
  const { field, value, label } = item
  if (label)
    return { id: 's1', kind: 'changeLabels', params: { how: 'add', labels: [String(value)], field: field.key } }
  if (field.key === 'stage')
    return { id: 's1', kind: 'moveStage', params: { ...STEPS.moveStage.start, stage: value, across: true } }
  if (field.key === 'owner')
    return {
      id: 's1',
      kind: 'assignOwner',
      params: { person: null, replace: true, who: { by: 'person', person: String(value) } },
    }
  return {
    id: 's1',
    kind: 'setField',
    params: { ...STEPS.setField.start, field: field.key, source: { from: 'value', value } },
  }
}

/** A rule that does what people did; `null` where our steps cannot. */
export function ruleFor(habit: Habit, object: RecordKind, catalogue: Catalogue): RuleDocument | null {
  const started = begin(habit.after, object, catalogue)
  const step = stepFor(habit.then, object, catalogue)
  const [after, then] = [sayAfter(habit.after, object, catalogue), sayThen(habit.then, object, catalogue)]
  if (!started || !step || after === null || then === null) return null
  return {
    ...blankRule(object, capital(`${after}: ${then.replace(/^someone (\w+?)s\b/, '$1')}`).slice(0, 200)),
    description: sayHabit(habit, object, catalogue) ?? '',
    triggers: started.triggers,
    ...(started.conditions && { conditions: started.conditions }),
    steps: [step],
  }
}

/** Whether a rule does the same already, whenever it does. */
export const doesSame = (rule: RuleDocument, habit: Habit, object: RecordKind, catalogue: Catalogue): boolean => {
  const step = stepFor(habit.then, object, catalogue)
  if (!step || rule.object !== object) return false
  const same = (steps: readonly Step[]): boolean =>
    steps.some(
      (one) =>
        (one.kind === step.kind && sameEffect(one.params, step.params)) ||
        (one.branches ?? []).some((branch) => same(branch.steps)),
    )
  return same(rule.steps)
}

/** What a step does to a record, apart from how it asks. */
function sameEffect(a: object, b: object): boolean {
  const bare = (params: object): string => {
    const { field, stage, labels, source, who, taskKind } = params as Record<string, unknown>
    return JSON.stringify([field, stage, labels, source, who, taskKind])
  }
  return bare(a) === bare(b)
}
