import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { OBJECTS, type ObjectKind } from '../records/kinds'
import type { Branch, RuleDocument, Step } from './document'
import { STEPS } from './steps'
import { branchLabel, objectInside, placedSteps, stepLabel } from './tree'
import { TRIGGERS } from './triggers'

/** A step whose results are at hand, with what the sheet calls it. */
interface Giving {
  readonly step: Step
  readonly label: string
  readonly object: ObjectKind
}

export const resultKey = (stepId: string, key: string): string => `${stepId}.${key}`

function fieldsOf({ step, label, object }: Giving, catalogue: Catalogue, on: readonly ObjectKind[]): readonly Field[] {
  return STEPS[step.kind].gives(step.params, { catalogue, object }).flatMap((one) =>
    on.map((kind): Field => ({
      // Stored fields count from 1: this one is nowhere stored.
      id: 0,
      object: kind,
      key: resultKey(step.id, one.key),
      label: `${one.label} (step ${label})`,
      type: one.type,
      description: `from step ${label}`,
      keptBy: `comes from step ${label}`,
      required: false,
      choices: one.choices ?? [],
      currencyKey: null,
      synonyms: null,
    })),
  )
}

/** What whoever starts the rule by hand has answered, and what an activity that starts it tells. */
const answers = (
  { triggers, object: of }: Pick<RuleDocument, 'triggers' | 'object'>,
  catalogue: Catalogue,
): readonly Field[] =>
  triggers.flatMap((trigger) =>
    TRIGGERS[trigger.kind].gives(trigger.params, { catalogue, object: of }).flatMap((one) =>
      OBJECTS.map((object): Field => ({
        id: 0,
        object,
        key: resultKey(trigger.id, one.key),
        label: `${one.label} (${one.from ?? 'answer'})`,
        type: one.type,
        description: one.from ? 'told by the activity that started the rule' : 'answered when run by hand',
        keptBy: one.from ? 'told by the activity' : 'answer given by hand',
        required: false,
        choices: one.choices ?? [],
        currencyKey: null,
        synonyms: null,
      })),
    ),
  )

/** The catalogue with the results of every step of a rule: for saying the rule and for running it. */
export const withResults = (
  rule: Pick<RuleDocument, 'steps' | 'object' | 'triggers'>,
  catalogue: Catalogue,
): Catalogue =>
  catalogue.with(answers(rule, catalogue)).with(
    placedSteps(rule).flatMap((placed) => fieldsOf(placed, catalogue, OBJECTS)),
    placedSteps(rule).map(({ step: { id }, label }) => ({ id, label })),
  )

/**
 * For each step and each way of a rule the catalogue with what it can use: the results of the steps before it and of
 * those before the steps it stands inside of. What stands inside another path may never have been done.
 */
export function catalogues(
  rule: Pick<RuleDocument, 'steps' | 'object' | 'triggers'>,
  catalogue: Catalogue,
): ReadonlyMap<string, Catalogue> {
  const found = new Map<string, Catalogue>()
  const walk = (steps: readonly Step[], object: ObjectKind, prefix: string, before: Catalogue): void => {
    let here = before
    steps.forEach((step, at) => {
      found.set(step.id, here)
      const label = stepLabel(prefix, at)
      const behind = here.with(fieldsOf({ step, label, object }, catalogue, OBJECTS), [{ id: step.id, label }])
      // What a wait gives is there on the ways behind it; what a choice of paths gives only below them all.
      const inside = STEPS[step.kind].ways?.choose ? here : behind
      step.branches?.forEach((branch: Branch, index) => {
        found.set(branch.id, inside)
        walk(branch.steps, objectInside(step, object), branchLabel(step, label, index), inside)
      })
      here = behind
    })
  }
  walk(rule.steps, rule.object, '', catalogue.with(answers(rule, catalogue)))
  return found
}

/** Whether a part of a rule names a result of any step: only then do runs carry results along. */
export const namesResults = (rule: Pick<RuleDocument, 'steps' | 'triggers'>): boolean => {
  const text = JSON.stringify(rule.steps)
  return (
    text.includes('.') &&
    [...placedIds(rule.steps), ...rule.triggers.map((one) => one.id)].some(
      (id) => text.includes(`"${id}.`) || new RegExp(`\\{\\{\\s*${id.replace(/[^\w]/g, '\\$&')}\\.`).test(text),
    )
  )
}

const placedIds = (steps: readonly Step[]): readonly string[] =>
  steps.flatMap((step) => [step.id, ...(step.branches ?? []).flatMap((branch) => placedIds(branch.steps))])

/** Whether a value is the step from which on a question asks what was done. */
const isStepOf = (given: object, key: string): boolean => key === 'step' && 'kind' in given && given.kind === 'did'

/** The same part with the ids of steps that it names, by themselves or in results, replaced. */
export function renameResults<T>(part: T, ids: ReadonlyMap<string, string>): T {
  const text = (given: string): string =>
    given
      .replace(/\{\{\s*([^{}.\s]+)\.([A-Za-z][A-Za-z\d]*)\s*\}\}/g, (whole, id: string, key: string) =>
        ids.has(id) ? `{{${ids.get(id)}.${key}}}` : whole,
      )
      .replace(/^([^{}.\s]+)\.([A-Za-z][A-Za-z\d]*)$/, (whole, id: string, key: string) =>
        ids.has(id) ? `${ids.get(id)}.${key}` : whole,
      )
  const id = (given: unknown): unknown => (typeof given === 'string' ? (ids.get(given) ?? given) : given)
  const one = (given: unknown): unknown =>
    typeof given === 'string'
      ? text(given)
      : Array.isArray(given)
        ? given.map(one)
        : typeof given === 'object' && given !== null
          ? Object.fromEntries(
              Object.entries(given).map(([key, value]) => [key, isStepOf(given, key) ? id(value) : one(value)]),
            )
          : given
  return one(part) as T
}
