import { baseOf } from '../channels/base'
import type { Store } from '../store'
import { readSignedWith, signedWith } from '../store/signature'
import type { TaskRow } from '../store/tasks'

/** Links by which somebody answers what a rule asks, without signing in: one task, one person, until it is answered. */

const hex = (text: string): string => Buffer.from(text, 'utf8').toString('hex')

/** The link for the task that a step of a run gave somebody; `null` where there is none. */
export function answerLink(store: Store, runId: number, stepId: string, personId: string): string | null {
  const task = store.tasks.openOfStep(runId, stepId, personId)
  return task && `${baseOf()}/answer/${signedWith(store.websites.secret(), 'answer', `${task.id}_${hex(personId)}`)}`
}

/** The task and the person that a link was made for; `null` for what was not made here. */
export function readAnswerLink(
  store: Store,
  text: string,
): { readonly task: TaskRow; readonly personId: string } | null {
  const name = readSignedWith(store.websites.secret(), 'answer', text)
  const [, taskId, person] = /^(\d{1,15})_([0-9a-f]{2,64})$/.exec(name ?? '') ?? []
  if (taskId === undefined || person === undefined) return null
  const task = store.tasks.get(Number(taskId))
  return task && { task, personId: Buffer.from(person, 'hex').toString('utf8') }
}
