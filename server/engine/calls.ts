import type { CallResult } from '../../core/asks/call'
import { readAnswered } from '../../core/rules/answered'
import { endCall, nextPickUp, takePickUps } from '../stand-ins/phone'
import { finishTask } from './finish-task'
import { readCallKey } from './place-call'
import { RefusedError, type Workspace } from './workspace'

/** What the dialler tells of its calls, and the simulated phone instead of it. */

/** How a try went, as the dialler tells it. What is told of an earlier try, or once more, changes nothing. */
export function callEnded(workspace: Workspace, key: string, given: unknown): 'taken' | 'known' | 'unknown' {
  const { tasks } = workspace.store
  const read = readCallKey(key)
  const task = read && tasks.get(read.taskId)
  if (!read || task?.asks?.about !== 'call' || !task.asks.automatic) return 'unknown'
  const result = readAnswered(task.asks, (given ?? {}) as Record<string, unknown>, task.object, workspace.catalogue())
  if ('problems' in result) throw new RefusedError(result.problems)
  if (task.state !== 'open' || task.asks.attempt !== read.attempt) return 'known'
  finishTask(workspace, task, null, '', result.answered)
  workspace.live.tell({ about: 'records', refs: [{ object: task.object, id: task.recordId }, task.asks.contact] })
  workspace.live.tell({ about: 'sent' })
  return 'taken'
}

/** Ends a call on the simulated phone. */
export function answerPhone(workspace: Workspace, key: string, result: CallResult): 'taken' | 'known' | 'unknown' {
  const rang = workspace.db.inTurn(() => endCall(workspace.db, key, result))
  return rang ? callEnded(workspace, key, result) : 'known'
}

/** Picks up what is picked up by itself by now. */
export function pickUpByThemselves(workspace: Workspace): void {
  const { db, clock } = workspace
  if ((nextPickUp(db) ?? Infinity) > clock.nowMs()) return
  const due = db.inTurn(() => takePickUps(db, clock.nowMs()))
  for (const { key, act } of due) if (act) answerPhone(workspace, key, act)
}
