import type { Message, WriteResult } from '../world/ports'
import type { Timer } from '../engine/clockwork'
import { momentAt } from '../engine/moment'
import type { NewRun, RunEnd, StepRecord, Wait } from '../engine/world'
import type { NewTask } from '../records/task'
import { compileGroup } from '../conditions/compile'
import type { Group } from '../conditions/document'
import type { Catalogue } from '../fields/catalogue'
import type { Value, Values } from '../language/value'
import { matchForm, type MatchPart } from '../linking/link-by'
import type { RollUp } from '../derived/making'
import { compileWhere, rollUp } from '../derived/roll-up'
import type { Field } from '../fields/field'
import { planKept, planWrite } from '../records/plan-write'
import { sameRef, type ObjectKind, type RecordRef } from '../records/kinds'
import { subjectOf, type LinkedRecord } from '../records/subject'
import type { Cause, ChainPlace, ChangeEvent, RecordSnapshot } from '../records/record'
import { catalogue, NOW_MS } from './setting'

export interface State {
  readonly records: Map<string, RecordSnapshot>
  readonly links: (readonly [RecordRef, RecordRef])[]
  events: ChangeEvent[]
  readonly runs: { id: number; run: NewRun; end: RunEnd | null; atMs: number }[]
  readonly steps: { runId: number; stepId: string; result: StepRecord }[]
  readonly tasks: (NewTask & { id: number; open: boolean })[]
  readonly messages: Map<string, Message>
  waits: Wait[]
  timers: Timer[]
}

export const key = (ref: RecordRef): string => `${ref.object}:${ref.id}`

/** Records, links and changes in memory, that roll back like a database. */
export class RecordsInMemory {
  state: State = {
    records: new Map(),
    links: [],
    events: [],
    runs: [],
    steps: [],
    tasks: [],
    messages: new Map(),
    waits: [],
    timers: [],
  }
  position = 0
  /** Makes the next writes of a record throw, as a broken disk would. */
  broken: ((ref: RecordRef) => boolean) | null = null

  constructor(public atMs = NOW_MS) {}

  nowMs(): number {
    return this.atMs
  }
  catalogue(): Catalogue {
    return catalogue
  }

  atomically<T>(work: () => T): T {
    const { records, links, events, runs, steps, tasks, messages, waits, timers } = this.state
    const before: State = {
      records: new Map(records),
      links: [...links],
      events: [...events],
      runs: runs.map((run) => ({ ...run })),
      steps: [...steps],
      tasks: tasks.map((task) => ({ ...task })),
      messages: new Map(messages),
      waits: [...waits],
      timers: [...timers],
    }
    try {
      return work()
    } catch (error) {
      this.state = before
      throw error
    }
  }

  read(ref: RecordRef): RecordSnapshot | null {
    return this.state.records.get(key(ref)) ?? null
  }

  related(ref: RecordRef, object: ObjectKind): RecordSnapshot | null {
    const found = this.state.links.find(([from, to]) => sameRef(from, ref) && to.object === object)
    return found ? this.read(found[1]) : null
  }

  linked(ref: RecordRef, object: ObjectKind): readonly LinkedRecord[] {
    const main = this.related(ref, object)
    return this.state.links.flatMap(([from, to]) => {
      const other =
        sameRef(from, ref) && to.object === object ? to : sameRef(to, ref) && from.object === object ? from : null
      const record = other && this.read(other)
      return record ? [{ record, main: main !== null && sameRef(from, ref) && sameRef(main, record) }] : []
    })
  }

  setBy(ref: RecordRef, field: string): Cause | null {
    return (
      this.state.events.findLast(
        (event) => sameRef(event.ref, ref) && event.changes.some((change) => change.field === field),
      )?.cause ?? null
    )
  }

  alike(object: ObjectKind, field: string, part: MatchPart, form: string): readonly RecordSnapshot[] {
    const own = catalogue.field(object, field)
    return [...this.state.records.values()].filter(
      (record) =>
        record.object === object && own && matchForm(record.values[field] ?? null, own, part, catalogue) === form,
    )
  }

  unlink(from: RecordRef, to: RecordRef): string | null {
    const at = this.state.links.findIndex(([a, b]) => sameRef(a, from) && sameRef(b, to))
    if (at < 0) return null
    this.state.links.splice(at, 1)
    return ''
  }

  create(
    object: ObjectKind,
    values: Values,
    linkTo: readonly RecordRef[],
    cause: Cause,
    chain: ChainPlace,
  ): WriteResult & { readonly ref?: RecordRef } {
    const ref = { object, id: 1000 + this.state.records.size }
    const written = this.write(ref, values, cause, chain)
    if (written.ok) for (const to of linkTo) this.link(ref, to)
    return written.ok ? { ...written, ref } : written
  }

  link(from: RecordRef, to: RecordRef): boolean {
    if (this.state.links.some(([a, b]) => sameRef(a, from) && sameRef(b, to))) return false
    this.state.links.push([from, to])
    return true
  }

  write(ref: RecordRef, values: { readonly [field: string]: Value }, cause: Cause, chain: ChainPlace): WriteResult {
    if (this.broken?.(ref)) throw new Error('disk I/O error')
    const record = this.read(ref)
    const { changes, problems } = planWrite(ref.object, record?.values ?? null, values, this.atMs, catalogue)
    if (problems.length) return { ok: false, problems }
    if (changes.length === 0) return { ok: true, event: null }
    const next = { ...record?.values, ...Object.fromEntries(changes.map((change) => [change.field, change.new])) }
    this.state.records.set(key(ref), { ...ref, version: (record?.version ?? 0) + 1, values: next })
    const event: ChangeEvent = {
      seq: this.state.events.length + 1,
      atMs: this.atMs,
      kind: record ? 'changed' : 'created',
      ref,
      changes,
      cause,
      ...chain,
      rulesOff: false,
    }
    this.state.events.push(event)
    return { ok: true, event }
  }

  protected log(given: Pick<ChangeEvent, 'kind' | 'ref' | 'changes' | 'cause'>): void {
    this.state.events.push({
      seq: this.state.events.length + 1,
      atMs: this.atMs,
      chainId: `chain-${this.state.events.length}`,
      depth: 0,
      rulesOff: false,
      ...given,
    })
  }

  /** Takes a record away, as a person does. */
  delete(ref: RecordRef): void {
    const changes = Object.entries(this.read(ref)?.values ?? {}).map(([field, old]) => ({ field, old, new: null }))
    this.state.records.delete(key(ref))
    this.log({ kind: 'deleted', ref, changes, cause: { by: 'person', personId: 'ines' } })
  }

  /** Worked out values, happenings and the turn of the day are looked at through the overlay and the workspace. */
  keep(
    ref: RecordRef,
    values: { readonly [field: string]: Value },
    cause: Cause,
    chain: ChainPlace,
  ): ChangeEvent | null {
    const record = this.read(ref)
    if (!record) return null
    const changes = planKept(ref.object, record.values, values, this.atMs, catalogue)
    this.state.records.set(key(ref), { ...record, values: { ...record.values, ...values } })
    this.log({ kind: 'changed', ref, changes, cause, ...chain })
    return this.state.events.at(-1) ?? null
  }

  rollUp(ref: RecordRef, _field: Field, spec: RollUp): Value {
    return rollUp(
      spec,
      compileWhere(spec, catalogue),
      this.linked(ref, spec.over),
      (of, object) => this.linked(of, object),
      momentAt(this.atMs, catalogue.workspace),
    )
  }
  happenings(): readonly [] {
    return []
  }
  past(ref: RecordRef, field: string, beforeSeq: number): readonly Value[] {
    return this.state.events
      .filter((event) => event.seq < beforeSeq && sameRef(event.ref, ref))
      .toReversed()
      .flatMap((event) => event.changes.filter((change) => change.field === field).map((change) => change.old))
  }

  dayTurn(): null {
    return null
  }
  setDayTurn(): void {}
  behind(object: ObjectKind, afterId: number, limit: number): readonly RecordSnapshot[] {
    return this.sorted(object, () => true, afterId, limit)
  }
  newChain(): ChainPlace {
    return { chainId: `chain-${this.state.events.length}`, depth: 0 }
  }

  protected readonly sorted = (
    object: ObjectKind,
    test: (record: RecordSnapshot) => boolean,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] =>
    [...this.state.records.values()]
      .filter((record) => record.object === object && record.id > afterId && test(record))
      .sort((a, b) => a.id - b.id)
      .slice(0, limit)

  least(object: ObjectKind, field: string, from: string | number): string | number | null {
    const held = [...this.state.records.values()]
      .filter((record) => record.object === object)
      .map((record) => record.values[field] ?? null)
    const found = held.filter((value) => typeof value === typeof from && value !== null && value >= from) as (
      string | number
    )[]
    return found.sort((a, b) => (a < b ? -1 : 1))[0] ?? null
  }

  holding(
    object: ObjectKind,
    field: string,
    values: readonly (string | number)[],
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    return this.sorted(object, (record) => values.includes(record.values[field] as string), afterId, limit)
  }

  between(
    object: ObjectKind,
    field: string,
    from: number,
    to: number,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    return this.sorted(
      object,
      ({ values }) => Number(values[field] ?? Number.NaN) >= from && Number(values[field] ?? Number.NaN) <= to,
      afterId,
      limit,
    )
  }

  matching(object: ObjectKind, group: Group, afterId: number, limit: number): readonly number[] {
    const conditions = compileGroup(group, object, catalogue)
    return this.sorted(
      object,
      (record) =>
        conditions.test(
          subjectOf(record, (ref, of) => this.linked(ref, of)),
          momentAt(this.atMs, catalogue.workspace),
        ),
      afterId,
      limit,
    ).map(({ id }) => id)
  }

  protected readonly first = <T>(all: readonly T[], due: (one: T) => number | null, untilMs: number): T | null =>
    all
      .filter((one) => (due(one) ?? Infinity) <= untilMs && due(one) !== null)
      .sort((a, b) => (due(a) ?? 0) - (due(b) ?? 0))[0] ?? null

  /** Creates a record as a person would. */
  add(object: ObjectKind, id: number, values: Values): RecordRef {
    const ref = { object, id }
    const written = this.write(
      ref,
      { name: `${object} ${id}`, ...(object === 'deal' ? { stage: 'hp-sized' } : {}), ...values },
      { by: 'person', personId: 'ines' },
      { chainId: `add-${key(ref)}`, depth: 0 },
    )
    if (!written.ok) throw new Error(JSON.stringify(written.problems))
    return ref
  }
}
