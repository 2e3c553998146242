import { sayFail, sayStop } from '../../core/language/reasons'
import { placedSteps } from '../../core/rules/tree'
import { retry } from '../engine/retry'
import type { Workspace } from '../engine/workspace'
import type { FailedRun } from '../store/problems'
import { defineProblem, type Found } from './problem'

/** Whoever did nothing about a failure for so long will not any more. */
const DAYS = 30
const MOST = 5000

const keyOf = ({ ruleId, stepId, reason, stop }: FailedRun): string =>
  `${ruleId} ${stepId ?? ''} ${reason?.code ?? stop?.code ?? ''}`

function failed(workspace: Workspace): ReadonlyMap<string, readonly FailedRun[]> {
  const found = new Map<string, FailedRun[]>()
  const since = workspace.clock.nowMs() - DAYS * 86_400_000
  for (const run of workspace.store.problems.failedRuns(since, MOST)) {
    const key = keyOf(run)
    const there = found.get(key)
    if (there) there.push(run)
    else found.set(key, [run])
  }
  return found
}

/** Runs that failed, by their rule, step and reason. */
export const failedRuns = defineProblem({
  kind: 'failedRuns',
  title: 'Failed runs',
  unit: 'run',
  fix: 'Correct the rule or the records it failed for, then try them again.',
  find(workspace) {
    return [...failed(workspace)].flatMap(([key, runs]): Found[] => {
      const [newest] = runs
      if (!newest) return []
      const rule = workspace.store.rules.get(newest.ruleId)
      const document = rule?.version?.document ?? rule?.draft
      const at = document && placedSteps(document).find(({ step }) => step.id === newest.stepId)?.label
      const why = newest.reason ? sayFail(newest.reason) : newest.stop ? sayStop(newest.stop) : 'it failed'
      return [
        {
          key,
          says: `“${document?.name ?? `rule ${newest.ruleId}`}” fails${at === undefined ? '' : ` at step ${at}`}: ${why}`,
          count: runs.length,
          sinceMs: Math.min(...runs.map(({ atMs }) => atMs)),
          ruleId: newest.ruleId,
          ref: { object: newest.object, id: newest.recordId },
          path: `/journal?rule=${newest.ruleId}&state=failed`,
        },
      ]
    })
  },
  again(workspace, key, personId) {
    const runs = failed(workspace).get(key) ?? []
    const reports = runs.map(({ id }) => retry(workspace, id, personId))
    return { tried: runs.length, done: reports.filter((one) => one !== null && one.state !== 'failed').length }
  },
})
