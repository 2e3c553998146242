import { retryRun, type RunReport } from '../../core/engine/handle-event'
import { compileRule } from '../../core/engine/matcher'
import { sendAgain } from './given-up'
import type { Workspace } from './workspace'

/**
 * Takes a failed run on from the step at which it failed, by the version that it began with, and lets rules see what it
 * wrote; all in one commit. `null` for a run that did not fail.
 */
export function retry(workspace: Workspace, runId: number, personId: string): RunReport | null {
  const { runs, rules, events } = workspace.store
  const work = (): RunReport | null => {
    const run = runs.get(runId)
    const version = run && rules.version(run.versionId)
    const event = run && events.get(run.eventSeq)
    if (run?.state !== 'failed' || !version || !event || version.problem !== null) return null
    const before = runs.steps([runId])
    const sent = sendAgain(workspace, runId, personId)
    const stuck = before.some(({ result }) => result.state === 'failed' && result.reason.code !== 'notDelivered')
    // Where only a message was not delivered, everything behind it is done already.
    if (sent > 0 && !stuck) {
      const waits = workspace.store.waits.ofRun(runId).length > 0
      const state = run.stop ? 'stopped' : waits ? 'waiting' : 'done'
      runs.close(runId, { state, stop: run.stop, seen: run.seen }, workspace.clock.nowMs())
      const ref = { object: run.object, id: run.recordId }
      return { runId, ruleId: run.ruleId, ruleName: version.document.name, ref, state, stop: run.stop, steps: [] }
    }
    const rule = compileRule(
      { ruleId: run.ruleId, versionId: run.versionId, order: 0, document: version.document },
      workspace.catalogue(),
    )
    return retryRun(
      workspace.world,
      rule,
      event,
      { runId, because: run.because, seen: run.seen, done: runs.steps([runId]) },
      personId,
    )
  }
  const report = workspace.db.inTurn(() => workspace.db.atomically(work))
  if (!report) return null
  workspace.drain()
  workspace.live.tell({ about: 'records', refs: [report.ref] })
  workspace.live.tell({
    about: 'run',
    runId,
    ruleId: report.ruleId,
    ruleName: report.ruleName,
    ref: report.ref,
    recordName: workspace.nameOf(report.ref),
    state: report.state,
    text: report.state === 'failed' ? 'retried, failed again' : 'retried, completed',
  })
  workspace.live.tell({ about: 'tasks', people: [] })
  return report
}
