import type { RequestOf, WebRequest } from '../web/request'
import type { Value, Values } from '../language/value'
import type { PlacedProblem } from '../language/problems'
import type { Cause, ChainPlace, ChangeEvent, RecordSnapshot } from '../records/record'
import type { Activity } from '../records/activity'
import type { ObjectKind, RecordRef } from '../records/kinds'
import type { LinkedRecord } from '../records/subject'
import type { MatchPart } from '../linking/link-by'
import type { NewTask } from '../records/task'
import type { PostPort } from '../messages/letter'

/** What effects need of a world, by concern. The live workspace and a rehearsal implement the same. */

/** The event a write made, `null` when nothing would change; or what was wrong with the values. */
export type WriteResult =
  | { readonly ok: true; readonly event: ChangeEvent | null }
  | { readonly ok: false; readonly problems: readonly PlacedProblem[] }

export interface RecordPort {
  read(ref: RecordRef): RecordSnapshot | null
  /** The records linked to it, of a kind, in either direction, main ones first. */
  linked(ref: RecordRef, object: ObjectKind): readonly LinkedRecord[]
  /** What was done around it, the oldest first. */
  activities(ref: RecordRef): readonly Activity[]
  /** The record's main linked record of a kind. */
  related(ref: RecordRef, object: ObjectKind): RecordSnapshot | null
  /**
   * Records of a kind whose field has this form in the part that is compared, the oldest first; not more than a few
   * dozen.
   */
  alike(object: ObjectKind, field: string, part: MatchPart, form: string): readonly RecordSnapshot[]
  /** What a field held before a change, the newest first; not more than a few hundred. */
  past(ref: RecordRef, field: string, beforeSeq: number): Iterable<Value>
  /** What wrote the value that a field holds; `null` when nothing has since the record was there. */
  setBy(ref: RecordRef, field: string): Cause | null
  /** Record, history and event together; `null` when nothing would change. */
  write(ref: RecordRef, values: { readonly [field: string]: Value }, cause: Cause, chain: ChainPlace): WriteResult
  /** Makes a record with its links, as one event. */
  create(
    object: ObjectKind,
    values: Values,
    linkTo: readonly RecordRef[],
    cause: Cause,
    chain: ChainPlace,
  ): WriteResult & { readonly ref?: RecordRef }
  /** Links two records; answers whether they were not linked before. */
  link(from: RecordRef, to: RecordRef, cause: Cause): boolean
  /** Takes a link away; answers the role it had, `null` when there was none. */
  unlink(from: RecordRef, to: RecordRef, cause: Cause): string | null
}

/** What somebody is told in the app, and which run wanted it. */
export interface Notice {
  readonly ref: RecordRef
  readonly ruleId: number
  readonly runId: number
  readonly stepId: string
  readonly subject: string
  readonly body: string
}

/** What leaves the house: put into the outbox in the run's own commit, delivered after it. */
export interface Message {
  readonly channel: 'mail'
  readonly recipient: string
  readonly subject: string
  readonly body: string
  /** Who may answer the task of this step by a link in it, without signing in. */
  readonly answers?: string
}

/** What goes to people: tasks, words in the app, and what leaves the house. */
export interface DeliveryPort extends PostPort {
  createTask(task: NewTask): number
  /** Nobody has to answer what a task asks any more; a task that asks nothing is still to be done. */
  callOff(taskId: number): void
  /** The title of a task that a step left for a record and that is open still; of one person, when one is named. */
  openTask(ruleId: number, stepId: string, ref: RecordRef, personId?: string): string | null
  /** How many tasks of a person are open. */
  openTasks(personId: string): number
  /** Tells somebody in the app. */
  tell(personId: string, notice: Notice): void
  /** Keeps what is to leave the house until after the commit; the same key is never kept twice. */
  send(message: Message, key: string, runId: number, stepId: string): void
  /** Keeps a request to a service outside until after the commit; the same key is never kept twice. */
  request(request: WebRequest, of: RequestOf, key: string): void
  /** How often a step of a rule has given something to somebody in turn. */
  turn(ruleId: number, stepId: string): number
  takeTurn(ruleId: number, stepId: string): void
}
