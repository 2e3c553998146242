import { nextDue, planTimers, workDue } from '../../core/engine/clockwork'
import { nextAct } from '../stand-ins/mailbox'
import { nextPickUp } from '../stand-ins/phone'
import { pickUpByThemselves } from './calls'
import type { ImportControl } from './import'
import { actByThemselves } from './simulated-messages'
import type { Workspace } from './workspace'

/**
 * The clock at work: what is due is done piece by piece in the order of its moments. Each commit holds some pieces with
 * everything that rules did because of them, so that a crash in between loses nothing and does nothing twice; of two
 * processes on one file each finds done what the other has.
 */

/** Records that one piece takes at the most. */
const PIECE = 200
/** A commit gives way to others after this long. */
const BATCH_MS = 25

/** Sets the timers of rules that are on, and sees to it that the dates they go by are found by an index. */
export function planClock(workspace: Workspace): void {
  const { catalogue, waits } = workspace.store
  const dates = (): readonly number[] =>
    workspace.matcher().clocked.flatMap(({ document, clocks }) =>
      clocks.flatMap(({ trigger }) =>
        trigger.fields.flatMap((key) => {
          const field = workspace.catalogue().field(document.object, key)
          return field && (field.type === 'date' || field.type === 'dateTime') ? [field.id] : []
        }),
      ),
    )
  workspace.keepUp()
  const indexed = new Set(
    catalogue
      .indexedFields()
      .filter((field) => field.indexed)
      .map((field) => field.id),
  )
  const missing = new Set(dates().filter((id) => !indexed.has(id)))
  workspace.db.atomically(() => {
    for (const id of missing) catalogue.updateField(id, { indexed: true })
    if (missing.size > 0) workspace.catalogueChanged()
    waits.keepTimersOf(workspace.matcher().clocked.map((rule) => rule.ruleId))
    planTimers(workspace.world, workspace.matcher())
  })
}

/** Does what is due in one commit, as far as there is time; answers whether there may be more. */
function workSome(workspace: Workspace, enough: () => boolean): boolean {
  return workspace.db.atomically(() => {
    workspace.keepUp()
    for (;;) {
      const reports = workDue(workspace.world, workspace.matcher(), PIECE)
      if (reports === null) return false
      workspace.told([], reports)
      workspace.handleNew()
      if (enough()) return true
    }
  })
}

/** Does everything that is due by now. */
export async function workClock(workspace: Workspace, control: ImportControl): Promise<void> {
  // With nothing due not even a transaction is begun.
  while ((nextDue(workspace.world) ?? Infinity) <= workspace.clock.nowMs()) {
    const until = control.nowMs() + BATCH_MS
    const more = workSome(workspace, () => control.nowMs() >= until || control.awaited())
    workspace.courier.wake()
    if (!more) return
    await control.pause()
  }
}

/**
 * Turns the clock of a demo workspace forward to an instant. It stops at every moment on the way at which something is
 * due, so that each thing finds the time it was meant for.
 */
export async function turnClock(workspace: Workspace, toMs: number, control: ImportControl): Promise<void> {
  // A rule that was switched on just now has its moments on the way too.
  planClock(workspace)
  // Where customers answer by themselves, what is sent to them has to arrive before the clock goes on.
  const answers = workspace.store.catalogue.simulatedShare() > 0
  const nextAnswer = (): number =>
    answers ? Math.min(nextAct(workspace.db) ?? Infinity, nextPickUp(workspace.db) ?? Infinity) : Infinity
  for (;;) {
    if (answers) await workspace.courier.run()
    const answerMs = nextAnswer()
    if (answerMs <= Math.min(toMs, nextDue(workspace.world) ?? Infinity)) {
      if (answerMs > workspace.clock.nowMs()) workspace.turnTo(answerMs)
      actByThemselves(workspace)
      pickUpByThemselves(workspace)
      continue
    }
    const until = control.nowMs() + BATCH_MS
    const arrived = workspace.db.atomically(() => {
      workspace.keepUp()
      for (;;) {
        const due = nextDue(workspace.world)
        if (due === null || due > toMs) {
          if (toMs > workspace.clock.nowMs()) workspace.turnTo(toMs)
          return true
        }
        if (due > workspace.clock.nowMs()) workspace.turnTo(due)
        workspace.told([], workDue(workspace.world, workspace.matcher(), PIECE) ?? [])
        workspace.handleNew()
        if (answers || control.nowMs() >= until || control.awaited()) return false
      }
    })
    workspace.courier.wake()
    workspace.live.tell({ about: 'clock' })
    if (arrived) return
    await control.pause()
  }
}
