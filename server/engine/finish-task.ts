import { onTask, taskChange } from '../../core/signals/task'
import type { TaskRow } from '../store/tasks'
import { newChain } from './live-records'
import type { Workspace } from './workspace'

/**
 * Somebody has done what was to be done. Who follows it is told, and a run that waits for it goes on; where none does, nothing is left behind but
 * the task itself. What the run then did has been committed when this returns.
 */
export function finishTask(
  workspace: Pick<Workspace, 'db' | 'store' | 'world' | 'clock' | 'drain' | 'catalogue' | 'live'>,
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
    const who = workspace.catalogue().person(personId)?.name ?? personId
    for (const follower of store.tasks.followers(task.id).filter((id) => id !== personId)) {
      store.notices.add(
        follower,
        {
          ref,
          ruleId: task.ruleId,
          runId: task.runId,
          stepId: task.stepId,
          subject: `${who} completed “${task.title}”`,
          body: outcome,
        },
        nowMs,
      )
      db.afterwards(() => workspace.live.tell({ about: 'notices', people: [follower] }))
    }
    const wanted = store.waits
      .of(ref)
      .some(({ signals }) => signals.some((one) => one.signal === signal && one.key === key))
    if (wanted)
      world.log(ref, 'taskDone', [taskChange(task.id, outcome)], { by: 'person', personId }, newChain(), false, nowMs)
    return wanted
  })
  if (waited) workspace.drain()
}
