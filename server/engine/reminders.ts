import type { Catalogue } from '../../core/fields/catalogue'
import { hoursOf } from '../../core/rules/clock'
import { dateAt } from '../../core/time/dates'
import { instantAt, minuteAt } from '../../core/time/moments'
import type { Workspace } from './workspace'

/** A reminder with the moment it has by other hours. */
interface Moved {
  readonly taskId: number
  readonly dueMs: number
}

/**
 * Reminders that other hours move: they keep their day, and come when the office opens on it if they came then before;
 * otherwise they keep their time of day.
 */
export function movedReminders(workspace: Workspace, before: Catalogue, after: Catalogue): readonly Moved[] {
  const { tasks, records } = workspace.store
  const [from, to] = [before.workspace.zone, after.workspace.zone]
  return tasks.reminders(workspace.clock.nowMs()).flatMap(({ taskId, dueMs, ref }) => {
    const owner = records.read(ref)?.values.owner
    const minute = minuteAt(dueMs, from)
    const opens = hoursOf(before, owner).opensAt === minute ? hoursOf(after, owner).opensAt : minute
    const moved = instantAt(dateAt(dueMs, from), opens, to)
    return moved === dueMs ? [] : [{ taskId, dueMs: moved }]
  })
}
