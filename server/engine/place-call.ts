import type { CallAsks } from '../../core/asks/call'
import type { Store } from '../store'

/** Calls that the dialler places: they leave the house as everything else does. */

/** What one try is known by, outside and here. */
export const callKey = (taskId: number, attempt: number): string => `call-${taskId}-${attempt}`

/** The task and the try that a key stands for; `null` for any other text. */
export function readCallKey(key: string): { readonly taskId: number; readonly attempt: number } | null {
  const [, taskId, attempt] = /^call-(\d{1,15})-(\d{1,3})$/.exec(key) ?? []
  return taskId === undefined ? null : { taskId: Number(taskId), attempt: Number(attempt) }
}

/** Hands a try to the dialler; belongs into the transaction of whoever wants it. */
export function placeCall(
  { outbox }: Store,
  taskId: number,
  runId: number,
  { number, name, script, attempt }: CallAsks,
  nowMs: number,
  goesMs = nowMs,
): void {
  outbox.add(
    {
      key: callKey(taskId, attempt),
      channel: 'call',
      recipient: number,
      subject: name,
      body: script,
      runId,
      more: null,
    },
    nowMs,
    goesMs,
  )
}
