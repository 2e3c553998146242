import type { FailReason, SkipReason } from '../language/reasons'
import type { Value, Values } from '../language/value'
import type { ObjectKind, RecordRef } from '../records/kinds'

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

/** What a step wants done. Steps only return effects; the engine carries them out in the run's own commit. */
export type Effect =
  | { readonly effect: 'write'; readonly ref: RecordRef; readonly values: { readonly [field: string]: Value } }
  | { readonly effect: 'task'; readonly task: TaskDraft }
  | { readonly effect: 'send'; readonly message: Message }
  /** Makes a record: linked to these, to the one this step made before it when `linkToMade`, and from `linkFrom`. */
  | {
      readonly effect: 'create'
      readonly object: ObjectKind
      readonly values: Values
      readonly linkTo: readonly RecordRef[]
      readonly linkToMade?: boolean
      readonly linkFrom: RecordRef | null
      readonly name: string
    }
  | { readonly effect: 'unlink'; readonly from: RecordRef; readonly to: RecordRef; readonly name: string }
  /** Tells somebody in the app. */
  | { readonly effect: 'notice'; readonly personId: string; readonly subject: string; readonly body: string }
  /** Ends whatever waits for a record, of other runs than this one. */
  | { readonly effect: 'endWaits'; readonly ref: RecordRef; readonly because: string }
  /** Somebody's turn was taken. */
  | { readonly effect: 'turn' }
  /** Links two records, in the direction in which links are kept; `name` is the other one's, for telling. */
  | { readonly effect: 'link'; readonly from: RecordRef; readonly to: RecordRef; readonly name: string }

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
}

/** What leaves the house: put into the outbox in the run's own commit, delivered after it. */
export interface Message {
  readonly channel: 'mail'
  readonly recipient: string
  readonly subject: string
  readonly body: string
}

export type Outcome =
  /** `gives` are its results by their keys; `say` is what it found, for the journal. */
  | { readonly go: 'on'; readonly effects: readonly Effect[]; readonly gives?: Values; readonly say?: string }
  /** The run ends here, as it was meant to. */
  | { readonly go: 'stop'; readonly because: string }
  /** The run waits here: until a moment, until something happens to the record, or whichever comes first. */
  | { readonly go: 'wait'; readonly dueMs: number | null; readonly say: string }
  /** This step is done at a later moment, and the run goes on meanwhile. */
  | { readonly go: 'later'; readonly dueMs: number; readonly say: string }
  | { readonly go: 'skip'; readonly reason: SkipReason }
  | { readonly go: 'fail'; readonly reason: FailReason }
