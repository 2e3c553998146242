import { onTask, taskChange } from '../../core/signals/task'
import type { TaskRow } from '../store/tasks'
import { newChain } from './live-records'
import type { Workspace } from './workspace'

/**
 * Somebody has done what was to be done. A run that waits for it goes on; where none does, nothing is left behind but
 * the task itself. What the run then did has been committed when this returns.
 */
export function finishTask(
  workspace: Pick<Workspace, 'db' | 'store' | 'world' | 'clock' | 'drain'>,
  task: TaskRow,
  personId: string,
  outcome: string,
): void {
  const { db, store, world } = workspace
  const nowMs = workspace.clock.nowMs()
  const ref = { object: task.object, id: task.recordId }
  const { signal, key } = onTask(task.id)
  const waited = db.together(() => {
    store.tasks.finish(task.id, personId, outcome, nowMs)
    const wanted = store.waits
      .of(ref)
      .some(({ signals }) => signals.some((one) => one.signal === signal && one.key === key))
    if (wanted)
      world.log(ref, 'taskDone', [taskChange(task.id, outcome)], { by: 'person', personId }, newChain(), false, nowMs)
    return wanted
  })
  if (waited) workspace.drain()
}
