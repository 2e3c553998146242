import type { Group } from '../conditions/document'
import type { CompiledRule } from '../engine/matcher'
import type { NewRun, OpenRun, RunIdentity, Wait } from '../engine/world'
import type { Catalogue } from '../fields/catalogue'
import type { Value } from '../language/value'
import type { AddressFacts, MessageChannel } from '../messages/guards'
import type { Line } from '../messages/letter'
import type { MatchPart } from '../linking/link-by'
import type { Activity } from '../records/activity'
import type { LinkEnd } from '../records/subject'
import type { ObjectKind, RecordRef } from '../records/kinds'
import type { Cause, RecordSnapshot } from '../records/record'
import type { Moment } from '../conditions/moment'

/**
 * A world over another one: what is there is read from below, and everything that happens stays here. The live
 * workspace and a file of records alike can lie below; nothing of it is ever written.
 */

/** What lies below: records as they are, and what rules did before. */
export interface Base {
  readonly catalogue: Catalogue
  read(ref: RecordRef): RecordSnapshot | null
  /** The records linked to it, of a kind, main ones first. */
  linked(ref: RecordRef, object: ObjectKind): readonly LinkEnd[]
  least(object: ObjectKind, field: string, from: string | number): string | number | null
  holding(
    object: ObjectKind,
    field: string,
    values: readonly (string | number)[],
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[]
  between(
    object: ObjectKind,
    field: string,
    from: number,
    to: number,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[]
  matching(object: ObjectKind, group: Group, moment: Moment, afterId: number, limit: number): readonly number[]
  ids(object: ObjectKind, afterId: number, limit: number): readonly number[]
  /** The same with the records themselves: quicker where all of them are wanted. */
  behind(object: ObjectKind, afterId: number, limit: number): readonly RecordSnapshot[]
  alike(object: ObjectKind, field: string, part: MatchPart, form: string): readonly RecordSnapshot[]
  setBy(ref: RecordRef, field: string): Cause | null
  activities(ref: RecordRef): readonly Activity[]
  /** What a field held, the newest first. */
  past(ref: RecordRef, field: string): Iterable<Value>
  ran(run: RunIdentity): boolean
  lastRunAt(ruleId: number, ref: RecordRef): number | null
  openTask(ruleId: number, stepId: string, ref: RecordRef, personId?: string): string | null
  openTasks(personId: string): number
  addressFacts(channel: MessageChannel, address: string, who: RecordRef, ruleId: number): AddressFacts
  lineOf(number: string): Line
  firstSentTo(runId: number, who: RecordRef): number | null
  sentByStep(runId: number, stepId: string): readonly string[]
  turn(ruleId: number, stepId: string): number
  /** What waits below in some rules. */
  waiting(ruleIds: readonly number[]): readonly WaitingBelow[]
}

/** A run that was begun below and waits there, with what it waits for. */
export interface WaitingBelow {
  readonly run: NewRun
  readonly atMs: number
  readonly open: OpenRun
  readonly rule: CompiledRule
  readonly waits: readonly Wait[]
}
