import type { StepRecord } from '../../core/engine/world'
import { count, figure, plural } from '../../core/language/counts'
import { MENDABLE, sayFail, saySkip, sayStop, type StopReason } from '../../core/language/reasons'
import type { Pause } from '../db/schema/rules'
import type { Store } from '../store'

/** What goes wrong is told at once to whoever changed the rule last: nobody looks for it otherwise. */

interface Place {
  readonly store: Store
  readonly nowMs: number
  /** Hears who was told. */
  readonly told: (personId: string) => void
}

/** A run failed at a step, or a step was left out because nobody is there to do what it wanted. */
export function stepTroubled(place: Place, runId: number, stepId: string, result: StepRecord): void {
  if (result.state === 'failed') tell(place, runId, stepId, 'failed', sayFail(result.reason))
  if (result.state === 'skipped') keepLeftOut(place, runId, stepId, result)
  if (result.state === 'skipped' && (result.reason.code === 'nobody' || result.reason.code === 'left'))
    tell(place, runId, stepId, 'left something out', saySkip(result.reason))
}

/** What a step was left out for that somebody can mend is kept until it is. */
function keepLeftOut(
  { store, nowMs }: Place,
  runId: number,
  stepId: string,
  { on, reason }: Extract<StepRecord, { readonly state: 'skipped' }>,
): void {
  const { code } = reason
  const run = (MENDABLE as readonly string[]).includes(code) ? store.runs.get(runId) : null
  if (!run) return
  const { object, id } = on ?? { object: run.object, id: run.recordId }
  const { ruleId } = run
  store.problems.leftOut({ runId, stepId, object, recordId: id, ruleId, code, says: saySkip(reason), atMs: nowMs })
}

/** A run failed without having come to a step. */
export const runTroubled = (place: Place, runId: number, stop: StopReason): void =>
  tell(place, runId, '', 'failed', sayStop(stop))

/** A rule was paused: it started far more often than usual, or sent as many messages as it may. */
export function rulePaused(place: Place, ruleId: number, { starts, messages }: Pause): void {
  const [newest] = place.store.runs.list({ ruleId, limit: 1 })
  const why =
    messages === undefined
      ? `it started ${figure(starts)} ${plural(starts, 'time', 'times')} in an hour`
      : `it sent ${count(messages, 'message')} in an hour, as many as a rule may, and more wait`
  if (newest) tell(place, newest.id, '', 'is paused', `${why}; see the rule`)
}

function tell({ store, nowMs, told }: Place, runId: number, stepId: string, what: string, why: string): void {
  const run = store.runs.get(runId)
  const rule = run && store.rules.get(run.ruleId)
  if (!run || !rule) return
  const ref = { object: run.object, id: run.recordId }
  const name = rule.version?.document.name ?? rule.draft.name
  store.notices.add(
    rule.changedBy,
    {
      ref,
      ruleId: rule.id,
      runId,
      stepId,
      subject: `Rule “${name}” ${what}`,
      body: `${why.charAt(0).toUpperCase()}${why.slice(1)}.`,
    },
    nowMs,
  )
  told(rule.changedBy)
}
