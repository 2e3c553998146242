import { capital } from '../../core/language/nouns'
import { OUTBOX_WORDS } from '../../core/messages/guards'
import type { Wrote } from '../../core/effects/wrote'
import type { Db } from '../db/connect'
import type { Store } from '../store'
import type { OutboxRow } from '../store/outbox'
import type { Clock } from './clock'
import type { LiveHub } from './live'

/** What is needed of a workspace. */
interface Keeper {
  readonly db: Db
  readonly store: Store
  readonly clock: Clock
  readonly live: LiveHub
}

/**
 * A message was given up: its run fails at the step that wanted it, whatever came behind stays done, and whoever
 * changed the rule last is told. Belongs into the commit that gives it up.
 */
export function messageGivenUp(workspace: Keeper, row: OutboxRow, because: string): void {
  const { runs, rules, notices, messages } = workspace.store
  if (row.more) messages.failed(row.key, because)
  // What somebody wrote by hand has no run: the conversation says that it failed.
  if (row.runId === null) return
  const run = runs.get(row.runId)
  const steps = runs.steps([row.runId])
  const step = steps.find(({ result }) => result.state === 'done' && result.wrote.some((wrote) => isOf(wrote, row.key)))
  if (!run || !step || run.undoneAt !== null) return
  const nowMs = workspace.clock.nowMs()
  runs.recordStep(
    row.runId,
    steps.length,
    step.stepId,
    step.kind,
    {
      ...(step.result.on ? { on: step.result.on } : {}),
      state: 'failed',
      reason: { code: 'notDelivered', recipient: row.recipient, reason: because },
    },
    nowMs,
  )
  runs.close(row.runId, { state: 'failed', stop: run.stop, seen: run.seen }, nowMs)
  const rule = rules.get(run.ruleId)
  if (rule)
    notices.add(
      rule.changedBy,
      {
        ref: { object: run.object, id: run.recordId },
        ruleId: run.ruleId,
        runId: run.id,
        stepId: step.stepId,
        subject: `${capital(OUTBOX_WORDS[row.channel])} to ${row.recipient} was not delivered`,
        body: `“${rule.version?.document.name ?? rule.draft.name}” wanted to send “${row.subject}”. It was tried ${row.attempts + 1} times: ${because}.`,
      },
      nowMs,
    )
  workspace.db.afterwards(() => {
    workspace.live.tell({ about: 'rules' })
    if (rule) workspace.live.tell({ about: 'notices', people: [rule.changedBy] })
  })
}

/** Whether it is the message with that key. */
const isOf = (wrote: Wrote, key: string): boolean =>
  (wrote.what === 'message' || wrote.what === 'letter') && wrote.key === key

/** Has what was given up of a run tried again from the beginning; answers how many messages there were. */
export function sendAgain(workspace: Keeper, runId: number, personId: string): number {
  const { runs, outbox } = workspace.store
  const nowMs = workspace.clock.nowMs()
  const again = outbox.ofRun(runId).filter(({ state }) => state === 'givenUp')
  const steps = runs.steps([runId])
  again.forEach((row, i) => {
    outbox.revive(row.id, nowMs)
    const sent = steps.flatMap(({ stepId, kind, result }) =>
      result.state === 'done'
        ? result.wrote.flatMap((wrote) => (isOf(wrote, row.key) ? [{ stepId, kind, wrote, on: result.on }] : []))
        : [],
    )[0]
    if (sent)
      runs.recordStep(
        runId,
        steps.length + i,
        sent.stepId,
        sent.kind,
        { ...(sent.on ? { on: sent.on } : {}), state: 'done', wrote: [sent.wrote], againBy: personId },
        nowMs,
      )
  })
  return again.length
}
