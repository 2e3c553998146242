import type { RecordRef } from '../records/kinds'
import type { World } from './world'
import type { StopReason } from '../language/reasons'

/**
 * Ends what waits at a record, but for one run: each ends with the reason, and nothing is held up. Answers how many
 * runs did.
 */
export function endWaits(world: World, ref: RecordRef, stop: StopReason, but: number | null = null): number {
  const ended = new Set<number>()
  for (const wait of world.waitsOf(ref)) {
    if (wait.runId === but) continue
    world.endWait(wait.id)
    ended.add(wait.runId)
  }
  for (const runId of ended) endRun(world, runId, stop)
  return ended.size
}

/** Ends a run that waited; one that had failed or ended before stays what it is. */
export function endRun(world: World, runId: number, stop: StopReason): void {
  const run = world.openRunOf(runId)
  if (run?.state === 'waiting') world.closeRun(runId, { state: 'stopped', stop, seen: run.seen })
}
