import { goThrough, necessary } from './possible'
import type { Catalogue } from '../../fields/catalogue'
import type { Value, Values } from '../../language/value'
import type { FieldChange } from '../../records/record'
import { aboutOf, bears } from '../../signals'
import type { RuleDocument, Step, Trigger } from '../document'
import { STEPS } from '../steps'
import { placedSteps } from '../tree'
import { TRIGGERS } from '../triggers'
import type { Moment } from '../../conditions/moment'
import type { Touch } from '../touch'

/** A touch with the step that makes it. */
export interface StepTouch extends Touch {
  readonly step: Step
  readonly label: string
}

/**
 * What a record holds right after a trigger fired, as far as the trigger says; for several triggers, where they agree.
 */
export function heldAfter(triggers: readonly Trigger[]): Values {
  const [first, ...rest] = triggers.map((trigger) => TRIGGERS[trigger.kind].after(trigger.params))
  return Object.fromEntries(
    Object.entries(first ?? {}).filter(([key, value]) => rest.every((values) => values[key] === value)),
  )
}

/** Asked of each rule by all others: worked out once for a document and a catalogue. */
function once<T>(
  make: (rule: RuleDocument, catalogue: Catalogue) => T,
): (rule: RuleDocument, catalogue: Catalogue) => T {
  const known = new WeakMap<RuleDocument, { readonly catalogue: Catalogue; readonly value: T }>()
  return (rule, catalogue) => {
    const found = known.get(rule)
    if (found?.catalogue === catalogue) return found.value
    const value = make(rule, catalogue)
    known.set(rule, { catalogue, value })
    return value
  }
}

/** What the triggers of a rule listen to, with their tests. */
export const listening = once((rule, catalogue) => {
  const names = { catalogue, object: rule.object }
  return rule.triggers.map((trigger) => ({
    trigger,
    listens: TRIGGERS[trigger.kind].listen(trigger.params, names),
    test: TRIGGERS[trigger.kind].compile(trigger.params, names),
  }))
})

export const touchesOf = once((rule, catalogue): readonly StepTouch[] => {
  const held = heldAfter(rule.triggers)
  return placedSteps(rule).flatMap(({ step, label, object }) =>
    STEPS[step.kind]
      .touches(step.params, { catalogue, object }, object === rule.object ? held : {})
      .map((touch) => ({ ...touch, step, label })),
  )
})

/** The trigger of a rule that a touch may set off; `null` when none can be. */
export function startedBy(
  touch: Touch,
  from: Values,
  rule: RuleDocument,
  catalogue: Catalogue,
  moment: Moment,
): Trigger | null {
  if (touch.object !== rule.object) return null
  const ref = { object: touch.object, id: 0 }
  const found =
    listening(rule, catalogue).find(({ trigger, listens, test }) =>
      listens.some((listen) => {
        const about = aboutOf(listen)
        if ('kind' in about) return about.kind === 'changed'
        if (about.field !== touch.field) return false
        if (touch.value === undefined && !touch.moves) return true
        return possibleChanges(touch, from, trigger).some((change) => {
          const event = { kind: 'changed', ref, changes: [change] } as const
          return bears(event, catalogue, [listen]) && (about.exact !== undefined || test(event))
        })
      }),
    )?.trigger ?? null
  if (!found) return null
  // What was just written may keep its conditions from holding.
  if (touch.value === undefined) return found
  const possible = goThrough(necessary(rule.conditions, rule.object, catalogue), rule.object, catalogue, moment, {
    ...from,
    [touch.field]: touch.value,
  })
  return possible === null || possible.ever ? found : null
}

/** The changes that a touch may be, where what it writes is known. */
function possibleChanges(touch: Touch, from: Values, trigger: Trigger): readonly FieldChange[] {
  const { field, value, moves } = touch
  if (moves) return [{ field, ...moves }]
  return value === undefined ? [] : olds(touch, from, trigger).map((old) => ({ field, old, new: value }))
}

/** Values that the field may have held before: the known one, or any; the trigger may ask for one that it names. */
function olds(touch: Touch, from: Values, { params }: Trigger): readonly Value[] {
  const known = from[touch.field]
  if (known !== undefined) return [known]
  if (typeof touch.value === 'boolean') return [null, !touch.value]
  const named = Object.values(params).filter((one): one is string | number =>
    typeof touch.value === 'number' ? typeof one === 'number' : typeof one === 'string',
  )
  const any = typeof touch.value === 'number' ? [touch.value - 1, touch.value + 1, -1e12, 1e12] : ['before']
  return [null, ...any, ...named].filter((old) => old !== touch.value)
}
