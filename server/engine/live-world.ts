import { randomUUID } from 'node:crypto'
import type { Message } from '../../core/engine/effects'
import type { NewRun, NewTask, Notice, RunEnd, StepRecord, World, WriteResult } from '../../core/engine/world'
import type { Catalogue } from '../../core/fields/catalogue'
import type { Value, Values } from '../../core/fields/value'
import { matchForm, type MatchPart } from '../../core/linking/link-by'
import { planWrite } from '../../core/records/plan-write'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import type { LinkedRecord } from '../../core/records/subject'
import type { Cause, ChainPlace, ChangeEvent, EventKind, FieldChange, RecordSnapshot } from '../../core/records/record'
import type { Db } from '../db/connect'
import type { Store } from '../store'
import type { Clock } from './clock'

/** So many records are kept at the most; a batch touches fewer. */
const KEPT_MOST = 4000
/** Whoever is told of several that match needs no more of them. */
const ALIKE_MOST = 50
const keyOf = ({ object, id }: RecordRef): string => `${object}:${id}`

/** The world as it is: SQLite and the workspace's clock behind the port that the engine knows. */
export class LiveWorld implements World {
  /** Records read or written in the transaction that is open: nobody else can have changed them. */
  private readonly kept = new Map<string, RecordSnapshot>()
  private footing: number | null = null

  constructor(
    private readonly db: Db, private readonly store: Store, private readonly clock: Clock,
    readonly catalogue: () => Catalogue,
  ) {}

  nowMs(): number {
    return this.clock.nowMs()
  }

  atomically<T>(work: () => T): T {
    return this.db.atomically(work)
  }

  read(ref: RecordRef): RecordSnapshot | null {
    const footing = this.db.footing()
    if (footing === null) return this.store.records.read(ref)
    this.stand(footing)
    const known = this.kept.get(keyOf(ref))
    if (known) return known
    const record = this.store.records.read(ref)
    if (record) this.keep(record)
    return record
  }

  private stand(footing: number): void {
    if (footing === this.footing) return
    this.kept.clear()
    this.footing = footing
  }

  private keep(record: RecordSnapshot): void {
    if (this.kept.size >= KEPT_MOST) this.kept.clear()
    this.kept.set(keyOf(record), record)
  }

  linked(ref: RecordRef, object: ObjectKind): readonly LinkedRecord[] {
    return this.store.links.linked(ref, object).flatMap(({ id, main }) => {
      const record = this.read({ object, id })
      return record ? [{ record, main }] : []
    })
  }

  alike(object: ObjectKind, key: string, part: MatchPart, form: string): readonly RecordSnapshot[] {
    const catalogue = this.catalogue()
    const field = catalogue.field(object, key)
    return field ? this.store.records.alike(field, part, form).filter((record) => matchForm(record.values[key] ?? null, field, part, catalogue) === form).slice(0, ALIKE_MOST) : []
  }

  link(from: RecordRef, to: RecordRef, cause: Cause, role = ''): boolean {
    return this.db.together(() => {
      const nowMs = this.nowMs()
      const added = this.store.links.add(from, to, role, nowMs)
      if (added) this.store.links.log('linked', from, to, cause, nowMs)
      return added
    })
  }

  tell(personId: string, notice: Notice): void {
    this.store.notices.add(personId, notice, this.nowMs())
  }

  turn(ruleId: number, stepId: string): number {
    return this.store.notices.turn(ruleId, stepId)
  }

  takeTurn(ruleId: number, stepId: string): void {
    this.store.notices.takeTurn(ruleId, stepId)
  }

  openTasks(personId: string): number {
    return this.store.tasks.openCount(personId)
  }

  unlink(from: RecordRef, to: RecordRef, cause: Cause): string | null {
    return this.db.together(() => {
      const role = this.store.links.roleOf(from, to)
      const gone = this.store.links.remove(from, to)
      if (gone) this.store.links.log('unlinked', from, to, cause, this.nowMs())
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

  write(ref: RecordRef, values: { readonly [field: string]: Value }, cause: Cause, chain: ChainPlace, rulesOff = false): WriteResult {
    return this.db.together(() => {
      const record = this.read(ref)
      if (!record) return { ok: false, problems: [{ path: '', problem: { code: 'shape', detail: `there is no ${ref.object} ${ref.id}` } }] }
      const nowMs = this.nowMs()
      const { changes, problems } = planWrite(ref.object, record.values, values, nowMs, this.catalogue())
      if (problems.length > 0) return { ok: false, problems }
      if (changes.length === 0) return { ok: true, event: null }
      this.store.records.update(ref, changes, nowMs)
      this.keep({ ...record, version: record.version + 1, values: { ...record.values, ...Object.fromEntries(changes.map((change) => [change.field, change.new])) } })
      return { ok: true, event: this.log(ref, 'changed', changes, cause, chain, rulesOff, nowMs) }
    })
  }

  /** Creates a record and logs it as one event; links are added in the same commit. */
  create(object: ObjectKind, values: Values, linkTo: readonly RecordRef[], cause: Cause, chain: ChainPlace = newChain(), rulesOff = false): WriteResult & { readonly ref?: RecordRef } {
    return this.db.together(() => {
      const nowMs = this.nowMs()
      const { changes, problems } = planWrite(object, null, values, nowMs, this.catalogue())
      if (problems.length > 0) return { ok: false, problems }
      const id = this.store.records.insert(object, Object.fromEntries(changes.map((change) => [change.field, change.new])), nowMs)
      const ref: RecordRef = { object, id }
      for (const to of linkTo) this.store.links.add(ref, to, '', nowMs)
      return { ok: true, ref, event: this.log(ref, 'created', changes, cause, chain, rulesOff, nowMs) }
    })
  }

  /** What was kept of a record is not what is there any more. */
  forget(ref: RecordRef): void {
    this.kept.delete(keyOf(ref))
  }

  /** Adds to the log what was done with a record. Belongs into the transaction that does it. */
  log(ref: RecordRef, kind: EventKind, changes: readonly FieldChange[], cause: Cause, chain: ChainPlace, rulesOff: boolean, atMs: number): ChangeEvent {
    const catalogue = this.catalogue()
    return this.store.events.append({ kind, ref, changes, cause, chainId: chain.chainId, depth: chain.depth, rulesOff, atMs }, (key) => catalogue.field(ref.object, key))
  }

  /** Rules that are paused; the workspace keeps it up to date. */
  paused: ReadonlySet<number> = new Set()

  hold(ruleId: number, event: ChangeEvent): boolean {
    if (!this.paused.has(ruleId)) return false
    this.store.ruleJobs.hold(ruleId, event.seq)
    return true
  }

  openRun(run: NewRun): number | null {
    return this.store.runs.open(run, this.nowMs())
  }

  runInChain(chainId: string, ruleId: number, ref: RecordRef): number | null {
    return this.store.runs.inChain(chainId, ruleId, ref)
  }

  lastRunAt(ruleId: number, ref: RecordRef, beforeRunId: number): number | null {
    return this.store.runs.lastAt(ruleId, ref, beforeRunId)
  }

  closeRun(runId: number, end: RunEnd): void {
    this.store.runs.close(runId, end, this.nowMs())
  }

  recordStep(runId: number, position: number, step: { readonly id: string; readonly kind: string }, result: StepRecord): void {
    this.store.runs.recordStep(runId, position, step.id, step.kind, result, this.nowMs())
  }

  createTask(task: NewTask): number {
    return this.store.tasks.create(task, this.nowMs())
  }

  openTask(ruleId: number, stepId: string, ref: RecordRef): string | null {
    return this.store.tasks.openOf(ruleId, stepId, ref)
  }

  send(message: Message, key: string, runId: number): void {
    this.store.outbox.add({ ...message, key, runId }, this.nowMs())
  }
}

/** Every change that nothing caused begins a chain of its own. */
export const newChain = (): ChainPlace => ({ chainId: randomUUID(), depth: 0 })
