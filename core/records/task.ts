import type { TaskAsks } from '../asks'
import type { RecordRef } from './kinds'

export const TASK_KINDS = ['call', 'email', 'visit', 'todo'] as const
export type TaskKind = (typeof TASK_KINDS)[number]
export const TASK_KIND_WORDS: { readonly [K in TaskKind]: string } = {
  call: 'call',
  email: 'email',
  visit: 'visit',
  todo: 'to-do',
}

export const PRIORITIES = ['low', 'normal', 'high'] as const
export type Priority = (typeof PRIORITIES)[number]

/** A task as a step asks for it; the engine adds the run it belongs to and why it exists. */
export interface TaskDraft {
  readonly ref: RecordRef
  readonly title: string
  readonly notes: string
  readonly taskKind: TaskKind
  readonly priority: Priority
  /** Plain date. */
  readonly due: string
  /** `null` for a task that lies in a queue. */
  readonly assigneeId: string | null
  /** The team whose queue it goes into; `null` when it goes to somebody. */
  readonly queue: string | null
  /** When whoever has it is reminded, in ms UTC; `null` for never. */
  readonly remindAt: number | null
  /** People who see it as well, and hear when it is done; nobody, when left out. */
  readonly followers?: readonly string[]
  /** What is asked when it is finished; nothing, when left out. */
  readonly asks?: TaskAsks
}

export interface NewTask extends TaskDraft {
  readonly ruleId: number
  readonly runId: number
  readonly stepId: string
  /** Why it exists, in words of this moment. */
  readonly because: string
}

/** Whose a task is that nobody in person has: a team's, until somebody takes it, or the dialler's. */
export const sayQueue = (queue: string | null): string => (queue === null ? 'the dialler' : `the ${queue} queue`)
