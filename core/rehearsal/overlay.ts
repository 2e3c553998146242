import TinyQueue from 'tinyqueue'
import { compileGroup, type CompiledGroup } from '../conditions/compile'
import type { Group } from '../conditions/document'
import type { ClockWorld, Reminder, Timer } from '../engine/clockwork'
import type { Message } from '../engine/effects'
import { compileRule, type ActiveRule, type CompiledRule } from '../engine/matcher'
import { momentAt } from '../engine/moment'
import {
  gotToSteps,
  type NewRun,
  type NewTask,
  type NewWait,
  type Notice,
  type OpenRun,
  type RunEnd,
  type RunIdentity,
  type StepRecord,
  type Wait,
  type WriteResult,
} from '../engine/world'
import type { Catalogue } from '../fields/catalogue'
import type { Value, Values } from '../language/value'
import { matchForm, type MatchPart } from '../linking/link-by'
import { derivationsOf, type Derived } from '../derived/derivations'
import type { RollUp } from '../derived/making'
import { compileWhere, rollUp } from '../derived/roll-up'
import type { DayTurn } from '../engine/derive'
import type { Field } from '../fields/field'
import type { Happening } from '../records/happening'
import { planKept, planWrite } from '../records/plan-write'
import { OBJECTS, sameRef, type ObjectKind, type RecordRef } from '../records/kinds'
import {
  isLinkable,
  type Cause,
  type ChainPlace,
  type ChangeEvent,
  type ClockMoment,
  type EventKind,
  type FieldChange,
  type RecordSnapshot,
} from '../records/record'
import { subjectOf, type LinkedRecord } from '../records/subject'
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
  linked(ref: RecordRef, object: ObjectKind): readonly { readonly id: number; readonly main: boolean }[]
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
  alike(object: ObjectKind, field: string, part: MatchPart, form: string): readonly RecordSnapshot[]
  setBy(ref: RecordRef, field: string): Cause | null
  happenings(ref: RecordRef): readonly Happening[]
  /** What a field held, the newest first. */
  past(ref: RecordRef, field: string): Iterable<Value>
  ran(run: RunIdentity): boolean
  lastRunAt(ruleId: number, ref: RecordRef): number | null
  openTask(ruleId: number, stepId: string, ref: RecordRef): string | null
  openTasks(personId: string): number
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

const keyOf = ({ object, id }: RecordRef): string => `${object}:${id}`
/** Records made here get numbers that nothing below has. */
const MADE_FROM = 1_000_000_000
const PAGE = 500
const SOMEBODY: Cause = { by: 'person', personId: '' }
const FORGOTTEN: ChangeEvent = {
  seq: 0,
  atMs: 0,
  kind: 'changed',
  ref: { object: 'deal', id: 0 },
  changes: [],
  cause: { by: 'kept', of: null },
  chainId: '',
  depth: 0,
  rulesOff: true,
}

export interface OverlayRun {
  readonly id: number
  readonly run: NewRun
  readonly atMs: number
  end: RunEnd | null
  endMs: number | null
  /** Where it was begun below. */
  readonly below?: WaitingBelow
}

export interface OverlayStep {
  readonly runId: number
  readonly stepId: string
  readonly kind: string
  readonly result: StepRecord
  readonly atMs: number
}

export interface OverlayTask extends NewTask {
  readonly id: number
  readonly atMs: number
  open: boolean
}

interface Linking {
  readonly from: RecordRef
  readonly to: RecordRef
  readonly main: boolean
}

/** Everything that happens stands here, in order; what drops a part of it takes back exactly that. */
export class Overlay implements ClockWorld {
  readonly events: ChangeEvent[] = []
  readonly runs: OverlayRun[] = []
  readonly steps: OverlayStep[] = []
  readonly tasks: OverlayTask[] = []
  readonly messages = new Map<string, Message & { readonly atMs: number; readonly runId: number }>()
  readonly notices: (Notice & { readonly personId: string; readonly atMs: number })[] = []
  readonly waits = new Map<number, Wait>()
  readonly timers = new Map<string, Timer>()
  /** The rules that run, by their numbers: what waits goes on by them. */
  rules: readonly ActiveRule[] = []
  /** Only these records are started by the clock; all, when left open. */
  only: ReadonlySet<string> | null = null

  private readonly records = new Map<string, RecordSnapshot | null>()
  private readonly changedOf = new Map<ObjectKind, Set<number>>()
  private readonly linksAdded: Linking[] = []
  private readonly linksGone = new Set<string>()
  private readonly identities = new Map<string, OverlayRun>()
  private readonly chains = new Map<string, OverlayRun[]>()
  private readonly ofRule = new Map<string, OverlayRun[]>()
  private readonly stepsOf = new Map<number, OverlayStep[]>()
  private readonly waitsByRecord = new Map<string, Set<number>>()
  private readonly waitsByRun = new Map<number, Set<number>>()
  private readonly dueWaits = new TinyQueue<{ readonly dueMs: number; readonly id: number }>(
    [],
    (a, b) => a.dueMs - b.dueMs || a.id - b.id,
  )
  private readonly dueReminders = new TinyQueue<Reminder>([], (a, b) => a.dueMs - b.dueMs || a.taskId - b.taskId)
  private readonly reminded = new Set<number>()
  private readonly openByStep = new Map<string, OverlayTask[]>()
  private readonly openByPerson = new Map<string, number>()
  private readonly turns = new Map<string, number>()
  private readonly writers = new Map<string, Cause>()
  private readonly compiled = new Map<number, CompiledRule>()
  private readonly groups = new WeakMap<Group, CompiledGroup>()
  private readonly undo: (() => void)[] = []
  private inside = 0
  private lastWait = 0
  private lastMade = MADE_FROM

  constructor(
    readonly base: Base,
    public atMs: number,
  ) {}

  nowMs(): number {
    return this.atMs
  }
  catalogue(): Catalogue {
    return this.base.catalogue
  }

  atomically<T>(work: () => T): T {
    const mark = this.undo.length
    this.inside++
    try {
      return work()
    } catch (error) {
      while (this.undo.length > mark) this.undo.pop()?.()
      throw error
    } finally {
      this.inside--
      if (this.inside === 0) this.undo.length = 0
    }
  }

  private undoable(undo: () => void): void {
    if (this.inside > 0) this.undo.push(undo)
  }

  private put<K, V>(map: Map<K, V>, key: K, value: V): void {
    const old = map.get(key)
    const had = map.has(key)
    map.set(key, value)
    this.undoable(() => {
      if (had) map.set(key, old as V)
      else map.delete(key)
    })
  }

  private push<V>(list: V[], value: V): void {
    list.push(value)
    this.undoable(() => {
      list.splice(list.lastIndexOf(value), 1)
    })
  }

  private pushTo<K, V>(map: Map<K, V[]>, key: K, value: V): void {
    const list = map.get(key)
    if (list) this.push(list, value)
    else this.put(map, key, [value])
  }

  read(ref: RecordRef): RecordSnapshot | null {
    const own = this.records.get(keyOf(ref))
    return own === undefined ? this.base.read(ref) : own
  }

  private set(ref: RecordRef, record: RecordSnapshot | null): void {
    this.put(this.records, keyOf(ref), record)
    const changed = this.changedOf.get(ref.object) ?? new Set<number>()
    this.changedOf.set(ref.object, changed)
    changed.add(ref.id)
  }

  private linksOf(ref: RecordRef, object: ObjectKind): readonly { readonly id: number; readonly main: boolean }[] {
    const below = this.base.linked(ref, object).filter(({ id }) => !this.linksGone.has(`${keyOf(ref)} ${object}:${id}`))
    const own = this.linksAdded.flatMap(({ from, to, main }) =>
      sameRef(from, ref) && to.object === object
        ? [{ id: to.id, main }]
        : sameRef(to, ref) && from.object === object
          ? [{ id: from.id, main: false }]
          : [],
    )
    return own.length === 0 ? below : [...below, ...own].sort((a, b) => Number(b.main) - Number(a.main))
  }

  linked(ref: RecordRef, object: ObjectKind): readonly LinkedRecord[] {
    return this.linksOf(ref, object).flatMap(({ id, main }) => {
      const record = this.read({ object, id })
      return record ? [{ record, main }] : []
    })
  }

  related(ref: RecordRef, object: ObjectKind): RecordSnapshot | null {
    const main = this.linksOf(ref, object).find((link) => link.main)
    return main ? this.read({ object, id: main.id }) : null
  }

  alike(object: ObjectKind, key: string, part: MatchPart, form: string): readonly RecordSnapshot[] {
    const field = this.base.catalogue.field(object, key)
    if (!field) return []
    const fits = (record: RecordSnapshot): boolean =>
      matchForm(record.values[key] ?? null, field, part, this.base.catalogue) === form
    return [
      ...this.base
        .alike(object, key, part, form)
        .flatMap((record) => this.read(record) ?? [])
        .filter(fits),
      ...this.own(object, fits),
    ]
  }

  /** Records changed or made here that pass a test and are not below as they were. */
  private own(object: ObjectKind, test: (record: RecordSnapshot) => boolean, afterId = 0): readonly RecordSnapshot[] {
    const found: RecordSnapshot[] = []
    for (const id of this.changedOf.get(object) ?? []) {
      const record = id > afterId ? this.records.get(keyOf({ object, id })) : null
      if (record && test(record)) found.push(record)
    }
    return found
  }

  /** A page of what lies below and of what is here, by their numbers. */
  private page(
    object: ObjectKind,
    below: (afterId: number, limit: number) => readonly RecordSnapshot[],
    test: (record: RecordSnapshot) => boolean,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    const changed = this.changedOf.get(object)
    if (!changed || changed.size === 0) return below(afterId, limit)
    const found: RecordSnapshot[] = []
    for (let at = afterId; found.length < limit;) {
      const some = below(at, Math.max(limit, PAGE))
      for (const record of some) if (!changed.has(record.id)) found.push(record)
      const last = some.at(-1)
      if (!last || some.length < Math.max(limit, PAGE)) break
      at = last.id
    }
    return [...found, ...this.own(object, test, afterId)].sort((a, b) => a.id - b.id).slice(0, limit)
  }

  least(object: ObjectKind, field: string, from: string | number): string | number | null {
    let best = this.base.least(object, field, from)
    for (const record of this.own(object, () => true)) {
      const value = record.values[field]
      if (
        (typeof value === 'string' || typeof value === 'number') &&
        typeof value === typeof from &&
        value >= from &&
        (best === null || value < best)
      )
        best = value
    }
    return best
  }

  holding(
    object: ObjectKind,
    field: string,
    values: readonly (string | number)[],
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    if (values.length === 0) return []
    const wanted: ReadonlySet<unknown> = new Set(values)
    return this.page(
      object,
      (after, most) => this.base.holding(object, field, values, after, most),
      (record) => wanted.has(record.values[field]),
      afterId,
      limit,
    )
  }

  between(
    object: ObjectKind,
    field: string,
    from: number,
    to: number,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    const within = ({ values }: RecordSnapshot): boolean =>
      typeof values[field] === 'number' && values[field] >= from && values[field] <= to
    return this.page(
      object,
      (after, most) => this.base.between(object, field, from, to, after, most),
      within,
      afterId,
      limit,
    )
  }

  matching(object: ObjectKind, group: Group, afterId: number, limit: number): readonly number[] {
    const moment = momentAt(this.atMs, this.base.catalogue.workspace)
    let conditions = this.groups.get(group)
    if (!conditions) this.groups.set(group, (conditions = compileGroup(group, object, this.base.catalogue)))
    const test = conditions
    const fits = (record: RecordSnapshot): boolean =>
      test.test(
        subjectOf(record, (ref, of) => this.linked(ref, of)),
        moment,
      )
    // What is asked of linked records may have changed here, which nothing below knows.
    const asksLinked = JSON.stringify(group).includes('"kind":"linked"')
    const changed = this.records.size > 0 || this.linksAdded.length > 0 || this.linksGone.size > 0
    if (!asksLinked || !changed) {
      const touched = this.changedOf.get(object) ?? new Set<number>()
      const found: number[] = []
      for (let at = afterId; found.length < limit;) {
        const some = this.base.matching(object, group, moment, at, Math.max(limit, PAGE))
        for (const id of some) if (!touched.has(id)) found.push(id)
        const last = some.at(-1)
        if (last === undefined || some.length < Math.max(limit, PAGE)) break
        at = last
      }
      return [...found, ...this.own(object, fits, afterId).map(({ id }) => id)].sort((a, b) => a - b).slice(0, limit)
    }
    const found: number[] = []
    for (let at = afterId; found.length < limit;) {
      const some = this.base.ids(object, at, PAGE)
      for (const id of some) {
        const record = this.read({ object, id })
        if (record && fits(record)) found.push(id)
      }
      const last = some.at(-1)
      if (last === undefined || some.length < PAGE) break
      at = last
    }
    const made = this.own(object, (record) => record.id >= MADE_FROM && fits(record), afterId).map(({ id }) => id)
    return [...found, ...made].sort((a, b) => a - b).slice(0, limit)
  }

  setBy(ref: RecordRef, field: string): Cause | null {
    return this.writers.get(`${keyOf(ref)} ${field}`) ?? this.base.setBy(ref, field)
  }

  link(from: RecordRef, to: RecordRef, cause: Cause = SOMEBODY): boolean {
    if (!isLinkable(from, to) || this.linksOf(from, to.object).some(({ id }) => id === to.id)) return false
    this.push(this.linksAdded, { from, to, main: !this.linksOf(from, to.object).some((link) => link.main) })
    this.linksChanged([from, to], cause)
    return true
  }

  /** Lets records know that links of theirs came or went, where something hangs on those. */
  private linksChanged(refs: readonly RecordRef[], cause: Cause): void {
    const { byLinks } = derivationsOf(this.base.catalogue)
    const run = cause.by === 'rule' ? this.runs[cause.runId - 1]?.run : undefined
    for (const ref of refs)
      if (byLinks.has(ref.object) || ref.object === 'deal')
        this.log('linked', ref, [], cause, run ? { chainId: run.chainId, depth: run.depth + 1 } : this.newChain())
  }

  newChain(): ChainPlace {
    return { chainId: `own-${this.events.length}`, depth: 0 }
  }

  keep(
    ref: RecordRef,
    values: { readonly [field: string]: Value },
    cause: Cause,
    chain: ChainPlace,
  ): ChangeEvent | null {
    const record = this.read(ref)
    const changes = record ? planKept(ref.object, record.values, values, this.atMs, this.base.catalogue) : []
    if (!record || changes.length === 0) return null
    this.set(ref, {
      ...record,
      values: { ...record.values, ...Object.fromEntries(changes.map((change) => [change.field, change.new])) },
    })
    return this.log('changed', ref, changes, cause, chain)
  }

  rollUp(ref: RecordRef, field: Field, spec: RollUp, moment: Moment): Value {
    let where = this.wheres.get(field.id)
    if (!where) this.wheres.set(field.id, (where = compileWhere(spec, this.base.catalogue)))
    return rollUp(spec, where, this.linked(ref, spec.over), (of, object) => this.linked(of, object), moment)
  }

  private readonly wheres = new Map<number, CompiledGroup>()

  happenings(ref: RecordRef): readonly Happening[] {
    return this.base.happenings(ref)
  }

  *past(ref: RecordRef, field: string, beforeSeq: number): Generator<Value> {
    for (let i = beforeSeq - 2; i >= 0; i--) {
      const event = this.events[i]
      if (!event || !sameRef(event.ref, ref)) continue
      const change = event.changes.find((one) => one.field === field)
      if (change) yield change.old
    }
    yield* this.base.past(ref, field)
  }

  private turn0: DayTurn | null = null
  dayTurn(): DayTurn | null {
    return this.turn0
  }
  setDayTurn(turn: DayTurn): void {
    const old = this.turn0
    this.turn0 = turn
    this.undoable(() => {
      this.turn0 = old
    })
  }

  /** Which values that hang on the day are kept up to date: those that somebody looks at. */
  keepsDaily = (_derived: Derived): boolean => true

  behind(object: ObjectKind, afterId: number, limit: number): readonly RecordSnapshot[] {
    const found: RecordSnapshot[] = []
    for (let at = afterId; found.length < limit;) {
      const ids = this.base.ids(object, at, PAGE)
      for (const id of ids) {
        const record = this.only && !this.only.has(keyOf({ object, id })) ? null : this.read({ object, id })
        if (record && found.length < limit) found.push(record)
      }
      const last = ids.at(-1)
      if (last === undefined || ids.length < PAGE) break
      at = last
    }
    return found.length < limit
      ? [
          ...found,
          ...this.own(object, ({ id }) => id >= MADE_FROM, Math.max(afterId, MADE_FROM - 1))
            .toSorted((a, b) => a.id - b.id)
            .slice(0, limit - found.length),
        ]
      : found
  }

  /** What nobody has asked about since it was handled needs no room: values that change daily would fill the machine. */
  forget(seq: number): void {
    this.events[seq - 1] = FORGOTTEN
  }

  unlink(from: RecordRef, to: RecordRef, cause: Cause = SOMEBODY): string | null {
    if (!this.linksOf(from, to.object).some(({ id }) => id === to.id)) return null
    const at = this.linksAdded.findIndex((one) => sameRef(one.from, from) && sameRef(one.to, to))
    const [added] = at < 0 ? [] : this.linksAdded.splice(at, 1)
    if (added)
      this.undoable(() => {
        this.linksAdded.push(added)
      })
    else {
      for (const key of [`${keyOf(from)} ${keyOf(to)}`, `${keyOf(to)} ${keyOf(from)}`]) {
        this.linksGone.add(key)
        this.undoable(() => {
          this.linksGone.delete(key)
        })
      }
    }
    this.linksChanged([from, to], cause)
    return ''
  }

  write(ref: RecordRef, values: { readonly [field: string]: Value }, cause: Cause, chain: ChainPlace): WriteResult {
    const record = this.read(ref)
    if (!record)
      return {
        ok: false,
        problems: [{ path: '', problem: { code: 'shape', detail: `there is no ${ref.object} ${ref.id}` } }],
      }
    const { changes, problems } = planWrite(ref.object, record.values, values, this.atMs, this.base.catalogue)
    if (problems.length > 0) return { ok: false, problems }
    if (changes.length === 0) return { ok: true, event: null }
    this.set(ref, {
      ...record,
      version: record.version + 1,
      values: { ...record.values, ...Object.fromEntries(changes.map((change) => [change.field, change.new])) },
    })
    return { ok: true, event: this.log('changed', ref, changes, cause, chain) }
  }

  create(
    object: ObjectKind,
    values: Values,
    linkTo: readonly RecordRef[],
    cause: Cause,
    chain: ChainPlace,
    id = ++this.lastMade,
  ): WriteResult & { readonly ref?: RecordRef } {
    const { changes, problems } = planWrite(object, null, values, this.atMs, this.base.catalogue)
    if (problems.length > 0) return { ok: false, problems }
    const ref: RecordRef = { object, id }
    this.set(ref, {
      ...ref,
      version: 1,
      values: Object.fromEntries(changes.map((change) => [change.field, change.new])),
    })
    const event = this.log('created', ref, changes, cause, chain)
    for (const to of linkTo) this.link(ref, to, cause)
    return { ok: true, ref, event }
  }

  /** Takes a record away, as a person does. */
  remove(ref: RecordRef, cause: Cause, chain: ChainPlace): void {
    const record = this.read(ref)
    if (!record) return
    const changes = Object.entries(record.values).flatMap(([field, old]) =>
      old === null ? [] : [{ field, old, new: null }],
    )
    const ends = OBJECTS.flatMap((object) => this.linksOf(ref, object).map(({ id }): RecordRef => ({ object, id })))
    this.set(ref, null)
    this.log('deleted', ref, changes, cause, chain)
    this.linksChanged(ends, cause)
  }

  /** Puts a record here as it was, without anything happening. */
  lay(record: RecordSnapshot): void {
    this.set(record, record)
  }

  /** Takes a record away without anything happening. */
  lift(ref: RecordRef): void {
    this.set(ref, null)
  }

  /** Takes over a run that was begun below and waits there: it goes on here by the version it began with. */
  take(below: WaitingBelow): void {
    const { run, atMs, open, waits } = below
    const made: OverlayRun = {
      id: this.runs.length + 1,
      run,
      atMs,
      end: { state: open.state, stop: null, seen: open.seen },
      endMs: null,
      below,
    }
    this.push(this.runs, made)
    this.put(this.identities, `${run.ruleId} ${keyOf(run.ref)} ${run.occurrence}`, made)
    this.pushTo(this.ofRule, `${run.ruleId} ${keyOf(run.ref)}`, made)
    // Changes here are counted from the first: all of them come behind it.
    for (const wait of waits) this.keepWait({ ...wait, id: ++this.lastWait, runId: made.id, sinceSeq: 0 })
  }

  private log(
    kind: EventKind,
    ref: RecordRef,
    changes: readonly FieldChange[],
    cause: Cause,
    chain: ChainPlace,
  ): ChangeEvent {
    const event: ChangeEvent = {
      seq: this.events.length + 1,
      atMs: this.atMs,
      kind,
      ref,
      changes,
      cause,
      chainId: chain.chainId,
      depth: chain.depth,
      rulesOff: false,
    }
    this.push(this.events, event)
    for (const { field } of changes) this.put(this.writers, `${keyOf(ref)} ${field}`, cause)
    return event
  }

  startByClock(ref: RecordRef, starts: ClockMoment): void {
    if (this.only && !this.only.has(keyOf(ref))) return
    this.log('started', ref, [], { by: 'clock', starts }, { chainId: `clock-${this.events.length}`, depth: 0 })
  }

  tell(personId: string, notice: Notice): void {
    this.push(this.notices, { ...notice, personId, atMs: this.atMs })
  }
  turn(ruleId: number, stepId: string): number {
    return this.turns.get(`${ruleId} ${stepId}`) ?? this.base.turn(ruleId, stepId)
  }
  takeTurn(ruleId: number, stepId: string): void {
    this.put(this.turns, `${ruleId} ${stepId}`, this.turn(ruleId, stepId) + 1)
  }
  openTasks(personId: string): number {
    return this.base.openTasks(personId) + (this.openByPerson.get(personId) ?? 0)
  }
  hold(): boolean {
    return false
  }

  openRun(run: NewRun): number | null {
    if (this.ran(run)) return null
    const made: OverlayRun = { id: this.runs.length + 1, run, atMs: this.atMs, end: null, endMs: null }
    this.push(this.runs, made)
    this.put(this.identities, `${run.ruleId} ${keyOf(run.ref)} ${run.occurrence}`, made)
    this.pushTo(this.chains, `${run.chainId} ${run.ruleId} ${keyOf(run.ref)}`, made)
    this.pushTo(this.ofRule, `${run.ruleId} ${keyOf(run.ref)}`, made)
    return made.id
  }

  ran(run: RunIdentity): boolean {
    // Events here have numbers of their own; only what the clock starts is known below by the same name.
    return (
      this.identities.has(`${run.ruleId} ${keyOf(run.ref)} ${run.occurrence}`) ||
      (!run.occurrence.startsWith('event:') && this.base.ran(run))
    )
  }

  runInChain(chainId: string, ruleId: number, ref: RecordRef): number | null {
    return this.chains.get(`${chainId} ${ruleId} ${keyOf(ref)}`)?.find(({ end }) => gotToSteps(end))?.id ?? null
  }

  lastRunAt(ruleId: number, ref: RecordRef, beforeRunId: number): number | null {
    return (
      this.ofRule.get(`${ruleId} ${keyOf(ref)}`)?.findLast(({ id, end }) => id < beforeRunId && gotToSteps(end))
        ?.atMs ?? this.base.lastRunAt(ruleId, ref)
    )
  }

  closeRun(runId: number, end: RunEnd): void {
    const run = this.runs[runId - 1]
    if (!run) return
    const { end: old, endMs } = run
    run.end = end
    run.endMs = this.atMs
    this.undoable(() => {
      run.end = old
      run.endMs = endMs
    })
  }

  recordStep(
    runId: number,
    _position: number,
    step: { readonly id: string; readonly kind: string },
    result: StepRecord,
  ): void {
    const made: OverlayStep = { runId, stepId: step.id, kind: step.kind, result, atMs: this.atMs }
    this.push(this.steps, made)
    this.pushTo(this.stepsOf, runId, made)
  }

  createTask(task: NewTask): number {
    const made: OverlayTask = { ...task, id: this.tasks.length + 1, atMs: this.atMs, open: true }
    this.push(this.tasks, made)
    this.pushTo(this.openByStep, `${task.ruleId} ${task.stepId} ${keyOf(task.ref)}`, made)
    if (task.assigneeId !== null)
      this.put(this.openByPerson, task.assigneeId, (this.openByPerson.get(task.assigneeId) ?? 0) + 1)
    if (task.remindAt !== null) this.dueReminders.push({ taskId: made.id, dueMs: task.remindAt })
    return made.id
  }

  openTask(ruleId: number, stepId: string, ref: RecordRef): string | null {
    return (
      this.openByStep.get(`${ruleId} ${stepId} ${keyOf(ref)}`)?.find((task) => task.open)?.title ??
      this.base.openTask(ruleId, stepId, ref)
    )
  }

  send(message: Message, messageKey: string, runId: number): void {
    if (!this.messages.has(messageKey)) this.put(this.messages, messageKey, { ...message, atMs: this.atMs, runId })
  }

  wait(given: NewWait): void {
    this.keepWait({ ...given, id: ++this.lastWait, sinceMs: this.atMs, sinceSeq: this.events.length })
  }

  private keepWait(wait: Wait): void {
    this.put(this.waits, wait.id, wait)
    for (const [map, key] of [
      [this.waitsByRecord, keyOf(wait.ref)],
      [this.waitsByRun, wait.runId],
    ] as const) {
      const ids = (map as Map<unknown, Set<number>>).get(key) ?? new Set<number>()
      ;(map as Map<unknown, Set<number>>).set(key, ids)
      ids.add(wait.id)
    }
    if (wait.dueMs !== null) this.dueWaits.push({ dueMs: wait.dueMs, id: wait.id })
  }

  waitsOf(ref: RecordRef): readonly Wait[] {
    return [...(this.waitsByRecord.get(keyOf(ref)) ?? [])].flatMap((id) => this.waits.get(id) ?? [])
  }
  waitsOfRun(runId: number): number {
    return [...(this.waitsByRun.get(runId) ?? [])].filter((id) => this.waits.has(id)).length
  }

  setDue(waitId: number, dueMs: number): void {
    const wait = this.waits.get(waitId)
    if (!wait) return
    this.put(this.waits, waitId, { ...wait, dueMs })
    this.dueWaits.push({ dueMs, id: waitId })
  }

  endWait(waitId: number): void {
    const wait = this.waits.get(waitId)
    if (!wait) return
    this.waits.delete(waitId)
    this.undoable(() => {
      this.waits.set(waitId, wait)
      if (wait.dueMs !== null) this.dueWaits.push({ dueMs: wait.dueMs, id: waitId })
    })
  }

  openRunOf(runId: number): OpenRun | null {
    const found = this.runs[runId - 1]
    if (found?.below)
      return {
        ...found.below.open,
        runId,
        state: found.end?.state ?? 'running',
        done: [...found.below.open.done, ...(this.stepsOf.get(runId) ?? [])],
      }
    const event = found && this.events[found.run.eventSeq - 1]
    return found && event
      ? {
          runId,
          state: found.end?.state ?? 'running',
          because: found.run.because,
          seen: found.end?.seen ?? [],
          event,
          done: this.stepsOf.get(runId) ?? [],
        }
      : null
  }

  ruleOfRun(runId: number): CompiledRule | null {
    const run = this.runs[runId - 1]
    if (!run) return null
    if (run.below) return run.below.rule
    const { ruleId } = run.run
    const known = this.compiled.get(ruleId)
    if (known) return known
    const rule = this.rules.find((one) => one.ruleId === ruleId)
    if (!rule) return null
    const made = compileRule(rule, this.base.catalogue)
    this.compiled.set(ruleId, made)
    return made
  }

  firstTimer(untilMs: number): Timer | null {
    let first: Timer | null = null
    for (const timer of this.timers.values())
      if (timer.dueMs <= untilMs && (first === null || timer.dueMs < first.dueMs)) first = timer
    return first
  }

  timer(ruleId: number, triggerId: string): Timer | null {
    return this.timers.get(`${ruleId} ${triggerId}`) ?? null
  }
  setTimer(timer: Timer): void {
    this.put(this.timers, `${timer.ruleId} ${timer.triggerId}`, timer)
  }
  dropTimer(ruleId: number, triggerId: string): void {
    const key = `${ruleId} ${triggerId}`
    const timer = this.timers.get(key)
    if (!timer) return
    this.timers.delete(key)
    this.undoable(() => {
      this.timers.set(key, timer)
    })
  }

  firstWait(untilMs: number): Wait | null {
    for (let first = this.dueWaits.peek(); first; first = this.dueWaits.peek()) {
      const wait = this.waits.get(first.id)
      if (wait?.dueMs === first.dueMs) return wait.dueMs <= untilMs ? wait : null
      // It has ended, or moved and stands further down again.
      this.dueWaits.pop()
    }
    return null
  }

  firstReminder(untilMs: number): Reminder | null {
    for (let first = this.dueReminders.peek(); first; first = this.dueReminders.peek()) {
      const task = this.tasks[first.taskId - 1]
      if (task?.open && task.remindAt === first.dueMs && !this.reminded.has(first.taskId))
        return first.dueMs <= untilMs ? first : null
      this.dueReminders.pop()
    }
    return null
  }

  remind(taskId: number): void {
    this.reminded.add(taskId)
    const task = this.tasks[taskId - 1]
    if (task?.assigneeId)
      this.tell(task.assigneeId, {
        ref: task.ref,
        ruleId: task.ruleId,
        runId: task.runId,
        stepId: task.stepId,
        subject: `Reminder: ${task.title}`,
        body: '',
      })
  }
}
