import { BEFORE_ALL } from '../../core/engine/world'
import type { Scope } from '../../core/access/scope'
import type { RecordRef } from '../../core/records/kinds'
import { sayStep } from '../../core/rules/describe'
import { withResults } from '../../core/rules/results'
import { placedSteps } from '../../core/rules/tree'
import { seesRef } from '../engine/seen'
import type { Workspace } from '../engine/workspace'
import type { StoredRule } from '../store/rules'

/** Who stands where in a rule: each step at which records wait, in the order of the sheet. */

/** So many records are named for a step. */
const NAMED = 10

export interface StandsAt {
  readonly stepId: string
  /** As on the sheet; empty for what stands before the first step, and for a step that an earlier version had. */
  readonly label: string
  readonly says: string
  readonly count: number
  /** The first of them, whoever goes on next before the others. */
  readonly records: readonly {
    readonly ref: RecordRef
    readonly name: string
    readonly runId: number
    readonly sinceMs: number
    readonly dueMs: number | null
  }[]
}

export function underWay(workspace: Workspace, rule: StoredRule, scope: Scope): readonly StandsAt[] {
  const { waits } = workspace.store
  const { id: ruleId } = rule
  const document = rule.version?.document ?? rule.draft
  const catalogue = withResults(document, workspace.catalogue())
  const placed = placedSteps(document)
  const placeOf = (stepId: string): number => {
    const at = placed.findIndex(({ step }) => step.id === stepId)
    return stepId === BEFORE_ALL ? -1 : at < 0 ? placed.length : at
  }
  return waits
    .bySteps(ruleId)
    .map(({ stepId, count }) => {
      const found = placed.find(({ step }) => step.id === stepId)
      const says = found
        ? sayStep(found.step, { catalogue, object: found.object })
        : stepId === BEFORE_ALL
          ? 'before the first step'
          : 'a step of an earlier version'
      const records = waits.atStep(ruleId, stepId, NAMED * 10).flatMap((row) => {
        const ref: RecordRef = { object: row.object, id: row.recordId }
        return seesRef(workspace, scope, ref)
          ? [{ ref, name: workspace.nameOf(ref), runId: row.runId, sinceMs: row.sinceMs, dueMs: row.dueMs }]
          : []
      })
      return { stepId, label: found?.label ?? '', says, count, records: records.slice(0, NAMED) }
    })
    .sort((a, b) => placeOf(a.stepId) - placeOf(b.stepId))
}
