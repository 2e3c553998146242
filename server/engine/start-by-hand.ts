import { sayReport } from '../../core/engine/say-run'
import type { RunReport } from '../../core/engine/handle-event'
import type { Values } from '../../core/language/value'
import type { RecordRef } from '../../core/records/kinds'
import { readAnswers } from '../../core/rules/questions'
import type { ByHandParams } from '../../core/rules/triggers/by-hand'
import type { Scope } from '../../core/access/scope'
import { tellingOfOthers } from '../../core/access/seen-world'
import { RefusedError, type Workspace } from './workspace'
import { newChain } from './live-records'

/** The button of a rule that is on; `null` when there is none such for this kind of record. */
export function buttonOf(
  workspace: Workspace,
  ruleId: number,
  triggerId: string,
  object: RecordRef['object'],
): ByHandParams | null {
  const rule = workspace.activeRules().find((one) => one.ruleId === ruleId && one.document.object === object)
  const trigger = rule?.document.triggers.find((one) => one.id === triggerId && one.kind === 'byHand')
  return trigger ? (trigger.params as ByHandParams) : null
}

/** The answers as steps will find them. Throws `RefusedError` with each that is missing or does not fit. */
export function answersTo(
  workspace: Workspace,
  button: ByHandParams,
  given: Values,
  object: RecordRef['object'],
): Values {
  const { values, problems } = readAnswers(button.questions, given, object, workspace.catalogue())
  if (problems.length > 0) throw new RefusedError(problems)
  return values
}

/** Starts a rule for a record, as somebody pressed its button; what it did has been committed when this returns. */
export function startByHand(
  workspace: Workspace,
  ref: RecordRef,
  start: { readonly ruleId: number; readonly triggerId: string; readonly answers: Values },
  personId: string,
  scope: Scope = null,
): { readonly report: RunReport | null; readonly text: string } {
  workspace.db.together(() =>
    workspace.world.log(
      ref,
      'started',
      [],
      { by: 'person', personId, starts: start },
      newChain(),
      false,
      workspace.clock.nowMs(),
    ),
  )
  const report = workspace.drain().find((one) => one.ruleId === start.ruleId) ?? null
  const names = { catalogue: workspace.catalogue(), object: ref.object }
  const text = report
    ? (sayReport(report, names, workspace.today()) ??
      (report.stop?.code === 'conditions'
        ? sayKeptOut(workspace, report.runId, scope)
        : report.stop?.code === 'repeats'
          ? report.stop.say
          : ''))
    : 'The rule is paused. The run is held back until it is resumed.'
  return { report, text }
}

/** Which condition was not true, as the run kept it. */
function sayKeptOut(workspace: Workspace, runId: number, scope: Scope): string {
  const run = workspace.store.runs.get(runId)
  const missed = run?.seen.find((one) => !one.holds)
  const version = run && workspace.store.rules.version(run.versionId)
  // What it saw in other records is not told to who does not see those.
  const telling =
    scope !== null &&
    missed !== undefined &&
    (!version || tellingOfOthers(version.document.conditions, run.object, workspace.catalogue()).has(missed.id))
  return missed
    ? `It did not run: ${missed.text} is not true${telling ? '' : ` (${missed.value})`}.`
    : 'This record does not meet the conditions.'
}
