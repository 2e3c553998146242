import { randomUUID } from 'node:crypto'
import type { DayTurn } from '../../core/engine/derive'
import { momentAt } from '../../core/engine/moment'
import { derivationsOf, type Derived } from '../../core/derived/derivations'
import type { RollUp } from '../../core/derived/making'
import type { Field } from '../../core/fields/field'
import type { Activity } from '../../core/records/activity'
import type { WriteResult } from '../../core/world/ports'
import type { Group } from '../../core/conditions/document'
import type { Catalogue } from '../../core/fields/catalogue'
import type { Value, Values } from '../../core/language/value'
import { linkChange, type LinkMove } from '../../core/signals/link'
import { matchForm, type MatchPart } from '../../core/linking/link-by'
import { planKept, planWrite } from '../../core/records/plan-write'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import type { LinkedRecord } from '../../core/records/subject'
import type { Cause, ChainPlace, ChangeEvent, EventKind, FieldChange, RecordSnapshot } from '../../core/records/record'
import type { Db } from '../db/connect'
import type { Store } from '../store'
import { withKey } from './acting'
import type { Clock } from './clock'
import type { Moment } from '../../core/conditions/moment'

/** So many records are kept at the most; a batch touches fewer. */
const KEPT_MOST = 4000

/** So far back one looks for what a field held. */
const PAST_MOST = 300

/** Whoever is told of several that match needs no more of them. */
const ALIKE_MOST = 50

const keyOf = ({ object, id }: RecordRef): string => `${object}:${id}`

/** Every change that nothing caused begins a chain of its own. */
export const newChain = (): ChainPlace => ({ chainId: randomUUID(), depth: 0 })

/** Records, links and changes of the workspace, as the engine sees them. */
export abstract class LiveRecords {
  /** Records read or written in the transaction that is open: nobody else can have changed them. */
  protected readonly kept = new Map<string, RecordSnapshot>()
  protected transactionId: number | null = null

  constructor(
    protected readonly db: Db,
    protected readonly store: Store,
    protected readonly clock: Clock,
    readonly catalogue: () => Catalogue,
  ) {}

  nowMs(): number {
    return this.clock.nowMs()
  }

  atomically<T>(work: () => T): T {
    return this.db.atomically(work)
  }

  read(ref: RecordRef): RecordSnapshot | null {
    const transactionId = this.db.transactionId()
    if (transactionId === null) return this.store.records.read(ref)
    this.stand(transactionId)
    const known = this.kept.get(keyOf(ref))
    if (known) return known
    const record = this.store.records.read(ref)
    if (record) this.keepRead(record)
    return record
  }

  protected stand(transactionId: number): void {
    if (transactionId === this.transactionId) return
    this.kept.clear()
    this.transactionId = transactionId
  }

  protected keepRead(record: RecordSnapshot): void {
    if (this.kept.size >= KEPT_MOST) this.kept.clear()
    this.kept.set(keyOf(record), record)
  }

  linked(ref: RecordRef, object: ObjectKind): readonly LinkedRecord[] {
    return this.store.links.linked(ref, object).flatMap(({ id, main, role }) => {
      const record = this.read({ object, id })
      return record ? [{ record, main, role }] : []
    })
  }

  alike(object: ObjectKind, key: string, part: MatchPart, form: string): readonly RecordSnapshot[] {
    const catalogue = this.catalogue()
    const field = catalogue.field(object, key)
    return field
      ? this.store.records
          .alike(field, part, form)
          .filter((record) => matchForm(record.values[key] ?? null, field, part, catalogue) === form)
          .slice(0, ALIKE_MOST)
      : []
  }

  link(from: RecordRef, to: RecordRef, cause: Cause, role = ''): boolean {
    return this.db.together(() => {
      const nowMs = this.nowMs()
      const added = this.store.links.add(from, to, role, nowMs)
      if (added) {
        this.store.links.log('linked', from, to, withKey(cause), nowMs)
        this.linkMoved(from, to, 'added', cause)
      }
      return added
    })
  }

  unlink(from: RecordRef, to: RecordRef, cause: Cause): string | null {
    return this.db.together(() => {
      const role = this.store.links.roleOf(from, to)
      const gone = this.store.links.remove(from, to)
      if (gone) {
        this.store.links.log('unlinked', from, to, withKey(cause), this.nowMs())
        this.linkMoved(from, to, 'removed', cause)
      }
      return gone ? (role ?? '') : null
    })
  }

  setBy(ref: RecordRef, field: string): Cause | null {
    const found = this.catalogue().field(ref.object, field)
    return found ? this.store.events.lastWriter(ref, found.id) : null
  }

  related(ref: RecordRef, object: ObjectKind): RecordSnapshot | null {
    const id = this.store.links.main(ref, object)
    return id === null ? null : this.read({ object, id })
  }

  write(
    ref: RecordRef,
    values: { readonly [field: string]: Value },
    cause: Cause,
    chain: ChainPlace,
    rulesOff = false,
  ): WriteResult {
    return this.db.together(() => {
      const record = this.read(ref)
      if (!record)
        return {
          ok: false,
          problems: [
            {
              path: '',
              problem: { code: 'recordGone', object: ref.object, id: ref.id },
            },
          ],
        }
      const nowMs = this.nowMs()
      const { changes, problems } = planWrite(ref.object, record.values, values, nowMs, this.catalogue())
      if (problems.length > 0) return { ok: false, problems }
      if (changes.length === 0) return { ok: true, event: null }
      this.store.records.update(ref, changes, nowMs)
      this.keepRead({
        ...record,
        version: record.version + 1,
        values: { ...record.values, ...Object.fromEntries(changes.map((change) => [change.field, change.new])) },
      })
      return { ok: true, event: this.log(ref, 'changed', changes, cause, chain, rulesOff, nowMs) }
    })
  }

  /** Creates a record and logs it as one event; links are added in the same commit. */
  create(
    object: ObjectKind,
    values: Values,
    linkTo: readonly RecordRef[],
    cause: Cause,
    chain: ChainPlace = newChain(),
    rulesOff = false,
  ): WriteResult & { readonly ref?: RecordRef } {
    return this.db.together(() => {
      const nowMs = this.nowMs()
      const { changes, problems } = planWrite(object, null, values, nowMs, this.catalogue())
      if (problems.length > 0) return { ok: false, problems }
      const id = this.store.records.insert(
        object,
        Object.fromEntries(changes.map((change) => [change.field, change.new])),
        nowMs,
      )
      const ref: RecordRef = { object, id }
      for (const to of linkTo) this.store.links.add(ref, to, '', nowMs)
      const event = this.log(ref, 'created', changes, cause, chain, rulesOff, nowMs)
      this.linksChanged(linkTo, cause, chain, rulesOff, [linkChange(object, id, 'added')])
      return { ok: true, ref, event }
    })
  }

  /** Whether moments of rules go by the clock of whoever deals are linked to; the workspace keeps it up to date. */
  byContact = false

  /**
   * Lets records know that links of theirs came or went, where something hangs on those. Belongs into the transaction
   * that does it.
   */
  linksChanged(
    refs: readonly RecordRef[],
    cause: Cause,
    chain: ChainPlace = this.chainOf(cause),
    rulesOff = false,
    moved: readonly FieldChange[] = [],
  ): void {
    const { byLinks } = derivationsOf(this.catalogue())
    for (const ref of refs)
      if (
        byLinks.has(ref.object) ||
        (this.byContact && ref.object === 'deal') ||
        (moved.length > 0 && this.hearsLinks(ref.object))
      )
        this.log(ref, 'linked', moved, cause, chain, rulesOff, this.nowMs())
  }

  /** Lets both ends of one link know of it, each what is at the other. */
  private linkMoved(from: RecordRef, to: RecordRef, move: LinkMove, cause: Cause): void {
    const chain = this.chainOf(cause)
    this.linksChanged([from], cause, chain, false, [linkChange(to.object, to.id, move)])
    this.linksChanged([to], cause, chain, false, [linkChange(from.object, from.id, move)])
  }

  /** Whether a rule listens to links of such records. */
  protected abstract hearsLinks(object: ObjectKind): boolean

  /** What a run does is of its chain, one deeper. */
  protected chainOf(cause: Cause): ChainPlace {
    const run = cause.by === 'rule' ? this.store.runs.get(cause.runId) : null
    return run ? { chainId: run.chainId, depth: run.depth + 1 } : newChain()
  }

  newChain(): ChainPlace {
    return newChain()
  }

  /** Whether anybody goes by a change of a value that the day brought. */
  protected abstract heeds(ref: RecordRef, change: FieldChange): boolean

  keep(
    ref: RecordRef,
    values: { readonly [field: string]: Value },
    cause: Cause,
    chain: ChainPlace,
    rulesOff: boolean,
    byDay = false,
  ): ChangeEvent | null {
    return this.db.together(() => {
      const record = this.read(ref)
      const nowMs = this.nowMs()
      const changes = record ? planKept(ref.object, record.values, values, nowMs, this.catalogue()) : []
      if (!record || changes.length === 0) return null
      this.store.records.update(ref, changes, nowMs, false)
      this.keepRead({
        ...record,
        values: { ...record.values, ...Object.fromEntries(changes.map((change) => [change.field, change.new])) },
      })
      return byDay && !changes.some((change) => this.heeds(ref, change))
        ? { seq: 0, atMs: nowMs, kind: 'changed', ref, changes, cause, ...chain, rulesOff }
        : this.log(ref, 'changed', changes, cause, chain, rulesOff, nowMs)
    })
  }

  rollUp(ref: RecordRef, _field: Field, spec: RollUp, moment: Moment): Value {
    return this.store.records.rollUp(
      ref,
      spec,
      this.store.records.where(spec.where, spec.over, this.catalogue(), moment),
    )
  }

  /** Which values may come later, while very many changes are made; whoever makes them sets it. */
  later: ((one: Derived) => boolean) | null = null

  putOff(ref: RecordRef, one: Derived): boolean {
    if (!this.later?.(one)) return false
    this.store.derive.putOff(ref)
    return true
  }

  activities(ref: RecordRef): readonly Activity[] {
    return this.store.activities.of(ref)
  }

  past(ref: RecordRef, key: string, beforeSeq: number): readonly Value[] {
    const field = this.catalogue().field(ref.object, key)
    return field ? this.store.events.past(ref, field.id, beforeSeq, PAST_MOST) : []
  }

  dayTurn(): DayTurn | null {
    return this.store.derive.turn()
  }

  setDayTurn(turn: DayTurn): void {
    this.store.derive.setTurn(turn)
  }

  behind(object: ObjectKind, afterId: number, limit: number): readonly RecordSnapshot[] {
    return this.store.records.behind(object, afterId, limit)
  }

  /** What was kept of a record is not what is there any more. */
  forget(ref: RecordRef): void {
    this.kept.delete(keyOf(ref))
  }

  /** Adds to the log what was done with a record. Belongs into the transaction that does it. */
  log(
    ref: RecordRef,
    kind: EventKind,
    changes: readonly FieldChange[],
    cause: Cause,
    chain: ChainPlace,
    rulesOff: boolean,
    atMs: number,
  ): ChangeEvent {
    const catalogue = this.catalogue()
    return this.store.events.append(
      { kind, ref, changes, cause: withKey(cause), chainId: chain.chainId, depth: chain.depth, rulesOff, atMs },
      (key) => catalogue.field(ref.object, key),
    )
  }

  least(object: ObjectKind, field: string, from: string | number): string | number | null {
    return this.store.records.least(object, field, from)
  }

  holding(
    object: ObjectKind,
    field: string,
    values: readonly (string | number)[],
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    return this.store.records.holding(object, field, values, afterId, limit)
  }

  between(
    object: ObjectKind,
    field: string,
    from: number,
    to: number,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    return this.store.records.between(object, field, from, to, afterId, limit)
  }

  matching(object: ObjectKind, group: Group, afterId: number, limit: number): readonly number[] {
    const catalogue = this.catalogue()
    return this.store.records.matchingAfter(
      object,
      this.store.records.where(group, object, catalogue, momentAt(this.nowMs(), catalogue.workspace)),
      afterId,
      limit,
    )
  }
}
