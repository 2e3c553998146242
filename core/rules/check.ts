import { placedAsks, placedConditions, placedDid, placedLinked, type Condition } from '../conditions/document'
import { checkAsk } from '../conditions/asks'
import { checkDid } from '../conditions/did'
import { canAsk } from '../conditions/linked'
import { OPERATORS } from '../conditions/operators'
import type { Catalogue } from '../fields/catalogue'
import { FIELD_TYPES } from '../fields/types'
import { PLAIN_STYLE } from '../fields/kind'
import { sayProblem, type Problem } from '../language/problems'
import type { RuleDocument } from './document'
import { STEPS } from './steps'
import { catalogues } from './results'
import { groupsOf, placedSteps } from './tree'
import { TRIGGERS } from './triggers'
import type { Names } from '../fields/names'

/** Something that keeps a rule from being switched on, pinned to the word it is about. */
export interface Finding {
  readonly part: 'rule' | 'trigger' | 'condition' | 'step' | 'branch' | 'goal'
  /** The id of the trigger, condition, step or way; empty for the rule itself. */
  readonly id: string
  readonly param: string
  readonly problem: Problem
  readonly text: string
}

const finding = (part: Finding['part'], id: string, param: string, problem: Problem): Finding => ({
  part,
  id,
  param,
  problem,
  text: sayProblem(problem),
})

function checkCondition(condition: Condition, { catalogue, object }: Names): readonly Finding[] {
  const field = catalogue.field(object, condition.field)
  const operator = OPERATORS[condition.op]
  const at = (param: string, problem: Problem) => finding('condition', condition.id, param, problem)
  if (!field)
    return [
      at(
        'field',
        condition.field === '' ? { code: 'missing', what: 'field' } : { code: 'unknownField', field: condition.field },
      ),
    ]
  if (!operator.types.includes(field.type))
    return [at('op', { code: 'unknownOperator', op: operator.words[0], type: FIELD_TYPES[field.type].word })]
  const missing = operator.missing(condition.params)
  if (missing.length > 0)
    return missing.map((param) => at(param, { code: 'missing', what: param === 'other' ? 'otherField' : 'value' }))
  const wrong = operator.wrong(condition.params, field, catalogue)
  if (wrong) return [at(wrong.param, wrong.problem)]
  // Values that were right when they were written may name a choice, stage or person that has gone since.
  const params = condition.params as { readonly value?: unknown; readonly values?: unknown }
  const values = Array.isArray(params.values) ? params.values : params.value === undefined ? [] : [params.value]
  if (operator.op === 'contains') return []
  return values.flatMap((value: string | number | boolean | null) => {
    const type = FIELD_TYPES[field.type]
    const read = type.accept(field.type === 'choices' && typeof value === 'string' ? [value] : value, {
      catalogue,
      field,
      style: PLAIN_STYLE,
      pipelineId: null,
    })
    return read.ok ? [] : [at('values' in params ? 'values' : 'value', read.problem)]
  })
}

/** Everything that must be mended before the rule can run. Empty for a rule that is ready. */
export function checkRule(rule: RuleDocument, catalogue: Catalogue): readonly Finding[] {
  const names: Names = { catalogue, object: rule.object }
  const found: Finding[] = []
  if (rule.triggers.length === 0) found.push(finding('rule', '', 'triggers', { code: 'missing', what: 'trigger' }))
  if (rule.steps.length === 0) found.push(finding('rule', '', 'steps', { code: 'missing', what: 'step' }))
  for (const trigger of rule.triggers) {
    const kind = TRIGGERS[trigger.kind]
    if (!kind.objects.includes(rule.object))
      found.push(
        finding('trigger', trigger.id, 'kind', {
          code: 'notFor',
          what: kind.does,
          object: rule.object,
        }),
      )
    for (const { param, problem } of kind.check(trigger.params, names))
      found.push(finding('trigger', trigger.id, param, problem))
  }
  const usable = catalogues(rule, catalogue)
  for (const { group, object: of, branch } of groupsOf(rule)) {
    const at = (branch && usable.get(branch.branch.id)) ?? catalogue
    for (const { condition, object } of placedConditions(group, of))
      found.push(...checkCondition(condition, { catalogue: at, object }))
    for (const { ask, object } of placedAsks(group, of)) {
      const wrong = checkAsk(ask, object, at)
      if (wrong) found.push(finding('condition', ask.id, wrong.param, wrong.problem))
    }
    for (const { did, object } of placedDid(group, of)) {
      const wrong = checkDid(did, object, at)
      if (wrong) found.push(finding('condition', did.id, wrong.param, wrong.problem))
    }
    for (const { linked, object } of placedLinked(group, of)) {
      if (!canAsk(linked, object))
        found.push(finding('condition', linked.id, 'how', { code: 'noMain', object, to: linked.object }))
    }
  }
  if (rule.goal && rule.goal.conditions.items.length === 0)
    found.push(finding('goal', 'rule', 'conditions', { code: 'missing', what: 'target' }))
  const deleted = rule.triggers.some((trigger) => trigger.kind === 'deleted')
  for (const { step, object, linked } of placedSteps(rule)) {
    const kind = STEPS[step.kind]
    // A run waits at its own record, and only while that is there.
    if ((linked || deleted) && kind.mayWait(step.params))
      found.push(
        finding('step', step.id, 'later' in kind.form ? 'later' : (Object.keys(kind.form)[0] ?? 'kind'), {
          code: 'cannotWait',
          why: linked ? 'linked' : 'deleted',
        }),
      )
    const own: Names = { catalogue: usable.get(step.id) ?? catalogue, object }
    if (!kind.objects.includes(object))
      found.push(finding('step', step.id, 'kind', { code: 'notFor', what: kind.does, object }))
    for (const { param, problem } of kind.check(step.params, own)) found.push(finding('step', step.id, param, problem))
    if (!kind.ways || !step.branches) continue
    if (kind.ways.choose && step.branches.every((branch) => branch.steps.length === 0))
      found.push(
        finding('step', step.id, 'kind', {
          code: 'missing',
          what: kind.ways.single ? 'eachStep' : 'pathStep',
        }),
      )
    step.branches.forEach((branch, i) => {
      for (const problem of kind.ways?.check(branch, i, step.branches ?? [], step.params, own) ?? [])
        found.push(finding('branch', branch.id, 'when', problem))
    })
  }
  return found
}
