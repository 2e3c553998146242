import { momentAt } from '../../core/engine/moment'
import { contextOf } from '../../core/engine/ways'
import { compileRule } from '../../core/engine/matcher'
import type { Mendable } from '../../core/language/reasons'
import { STEPS } from '../../core/rules/steps'
import { stepById } from '../../core/rules/tree'
import type { Workspace } from '../engine/workspace'
import type { LeftOutRow } from '../store/problems'
import { defineProblem, type Found } from './problem'

/** Whoever was left out for so long will not be made up for any more. */
const DAYS = 30
const MOST = 2000

const MEND: Readonly<Record<Mendable, string>> = {
  nobody: 'no one owns the record',
  left: 'its owner has left and has no deputy',
  noPerson: 'the chosen person does not exist any more',
  allAway: 'everyone on the list is away or has left',
  noCompany: 'it has no main company, so no territory applies',
  noTerritory: 'no territory covers its company',
  noAddress: 'the contact has no address',
  bounced: 'messages to the address come back',
}

/**
 * Whether the step would still be left out for that reason, by the rule as it is now: asked of the step itself, which
 * says what it would do and does nothing.
 */
function still(workspace: Workspace, { ruleId, stepId, object, recordId, code }: LeftOutRow): boolean {
  const rule = workspace.store.rules.get(ruleId)
  const document = rule?.version?.document
  const step = document && stepById(document.steps, stepId)
  const record = workspace.store.records.read({ object, id: recordId })
  if (!rule?.version || rule.state !== 'on' || !document || !step || !record) return false
  const { world } = workspace
  const compiled = compileRule(
    { ruleId, versionId: rule.version.id, order: rule.order, document },
    workspace.catalogue(),
  )
  const context = contextOf(
    { world, rule: compiled, moment: momentAt(workspace.clock.nowMs(), workspace.catalogue().workspace) },
    step,
    record,
  )
  try {
    const outcome = STEPS[step.kind].run(step.params, context)
    return outcome.go === 'skip' && outcome.reason.code === code
  } catch {
    // What cannot be told without its run stays until it is too old.
    return true
  }
}

/** Steps that were left out for a reason that somebody should mend, by rule, step and reason. */
export const leftOut = defineProblem({
  kind: 'leftOut',
  title: 'Left out',
  unit: 'record',
  fix: 'Fill in what is missing; what was left out is not made up for, the next run finds it.',
  find(workspace) {
    const { problems, rules } = workspace.store
    const rows = problems.allLeftOut(MOST)
    const mended = rows.filter((row) => !still(workspace, row))
    problems.forgetLeftOut(workspace.clock.nowMs() - DAYS * 86_400_000, mended)
    const found = new Map<string, LeftOutRow[]>()
    for (const row of rows) {
      if (mended.includes(row)) continue
      const key = `${row.ruleId} ${row.stepId} ${row.code}`
      const there = found.get(key)
      if (there) there.push(row)
      else found.set(key, [row])
    }
    return [...found].flatMap(([key, some]): Found[] => {
      const [newest] = some
      if (!newest) return []
      const rule = rules.get(newest.ruleId)
      const name = rule?.version?.document.name ?? rule?.draft.name ?? ''
      const records = new Set(some.map(({ object, recordId }) => `${object} ${recordId}`)).size
      return [
        {
          key,
          says: `“${name}” leaves something out: ${MEND[newest.code as Mendable]}`,
          count: records,
          sinceMs: Math.min(...some.map(({ atMs }) => atMs)),
          ruleId: newest.ruleId,
          ref: { object: newest.object, id: newest.recordId },
          path: `/journal?rule=${newest.ruleId}`,
        },
      ]
    })
  },
})
