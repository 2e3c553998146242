import { lookAtGoal } from '../../core/engine/goals'
import { dateAt } from '../../core/time/dates'
import type { ImportControl } from './import'
import type { Workspace } from './workspace'

/** Whether rules did any good, counted in the background. */

/** A commit gives way to others after this long, in milliseconds. */
const BATCH_MS = 25
/** So many targets are looked at in one commit when the day has turned. */
const PIECE = 500

/** Counts anew what changed, part by part; answers once nothing is left, or somebody waits. */
export async function countResults(workspace: Workspace, control: ImportControl): Promise<void> {
  const { db, store } = workspace
  const now = { zone: workspace.catalogue().workspace.zone, nowMs: workspace.clock.nowMs() }
  let counted = false
  while (store.results.anythingStale()) {
    const until = control.nowMs() + BATCH_MS
    db.inTurn(() =>
      db.unhurriedly(() => {
        while (store.results.countSome(now) !== null) if (control.nowMs() >= until || control.awaited()) break
      }),
    )
    counted = true
    await control.pause()
  }
  if (counted) workspace.live.tell({ about: 'results' })
}

/** The day up to which targets were looked at that the day alone may bring about, by workspace. */
const looked = new WeakMap<Workspace, string>()

/** Looks once a day at records that may have come to a target without a change of their own, or whose time is over. */
export function lookAtGoals(workspace: Workspace): void {
  const { db, store, world, clock } = workspace
  const today = dateAt(clock.nowMs(), workspace.catalogue().workspace.zone)
  if (looked.get(workspace) === today) return
  for (let after: number | null = 0; after !== null;) {
    const from: number = after
    after = db.inTurn(() =>
      db.atomically(() => {
        const open = store.measures.openByDay(clock.nowMs(), from, PIECE)
        for (const measure of open) lookAtGoal(world, measure)
        return open.length < PIECE ? null : (open.at(-1)?.id ?? null)
      }),
    )
  }
  db.inTurn(() => store.results.markWithin())
  looked.set(workspace, today)
}
