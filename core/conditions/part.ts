import type { Form, Widget } from '../language/widgets'
import { OBJECT_WORDS, type ObjectKind } from '../records/kinds'
import { didForm } from './did'
import {
  LINKED_COUNT_MOST,
  placedAsks,
  placedConditions,
  placedDid,
  placedLinked,
  type Condition,
  type Group,
} from './document'
import { askForm, askParams } from './asks'
import { howsFor, linkedKinds, LINKED_HOW_WORDS } from './linked'
import { OPERATORS } from './operators'

/** The words that a question about linked records is made of. */
function linkedForm(object: ObjectKind, other: ObjectKind): Form<Record<string, unknown>> {
  return {
    how: {
      label: 'How many',
      widget: 'pick',
      options: howsFor(object, other).map((value) => ({ value, label: LINKED_HOW_WORDS[value] })),
    },
    count: { widget: 'count', min: 1, max: LINKED_COUNT_MOST },
    object: {
      widget: 'pick',
      options: linkedKinds(object).map((value) => ({ value, label: OBJECT_WORDS[value].one })),
    },
  }
}

export interface ConditionPart {
  readonly params: Readonly<Record<string, unknown>>
  readonly form: Form<Record<string, unknown>>
  readonly start: object
  /** The kind of record it is asked of. */
  readonly object: ObjectKind
  readonly condition: Condition | null
}

/** What one condition, or question about linked records, is edited with; `null` when it has gone. */
export function conditionPart(group: Group, of: ObjectKind, id: string): ConditionPart | null {
  const placed = placedConditions(group, of).find(({ condition }) => condition.id === id)
  if (placed) {
    const { condition, object } = placed
    const { form, start } = OPERATORS[condition.op]
    return {
      params: { ...condition.params, field: condition.field },
      form: { ...form, at: AT },
      start,
      object,
      condition,
    }
  }
  const whole = placedAsks(group, of).find(({ ask }) => ask.id === id)
  if (whole) {
    const { ask, object } = whole
    return { params: askParams(ask), form: askForm(ask), start: {}, object, condition: null }
  }
  const done = placedDid(group, of).find(({ did }) => did.id === id)
  if (done) {
    const { how, count, activity, by, span, days, step = null } = done.did
    return {
      params: { how, count, activity, by, span, days, step },
      form: didForm(done.object),
      start: {},
      object: done.object,
      condition: null,
    }
  }
  const found = placedLinked(group, of).find(({ linked }) => linked.id === id)
  if (!found) return null
  const {
    linked: { how, count, object: other },
    object,
  } = found
  return { params: { how, count, object: other }, form: linkedForm(object, other), start: {}, object, condition: null }
}

const AT: Widget = {
  widget: 'pick',
  options: [
    {
      value: 'before',
      label: 'before the change that triggered the rule',
      hint: 'lists and counts use the current value',
    },
    { value: 'now', label: 'now' },
  ],
}
