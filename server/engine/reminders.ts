import { dateAt } from '../../core/time/dates'
import { instantAt, minuteAt } from '../../core/time/moments'
import type { Workspace } from './workspace'

/** Reminders keep their day and their time of day in another zone. Belongs into the transaction that changes it. */
export function moveReminders(workspace: Workspace, from: string, to: string): void {
  if (from === to) return
  const { tasks } = workspace.store
  for (const { taskId, dueMs } of tasks.reminders(workspace.clock.nowMs()))
    tasks.remindAt(taskId, instantAt(dateAt(dueMs, from), minuteAt(dueMs, from), to))
}
