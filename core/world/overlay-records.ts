import { compileGroup, type CompiledGroup } from '../conditions/compile'
import type { Group } from '../conditions/document'
import { momentAt } from '../engine/moment'
import type { WriteResult } from './ports'
import type { Value, Values } from '../language/value'
import { linkChange } from '../signals/link'
import { matchForm, type MatchPart } from '../linking/link-by'
import type { RollUp } from '../derived/making'
import { compileWhere, rollUp } from '../derived/roll-up'
import type { Field } from '../fields/field'
import type { Activity } from '../records/activity'
import { planKept, planWrite } from '../records/plan-write'
import { OBJECTS, sameRef, type ObjectKind, type RecordRef } from '../records/kinds'
import type { Cause, ChainPlace, ChangeEvent, EventKind, FieldChange, RecordSnapshot } from '../records/record'
import { subjectOf } from '../records/subject'
import type { Moment } from '../conditions/moment'
import { MADE_FROM, OverlayDays } from './overlay-days'
import { keyOf } from './overlay-links'

export const PAGE = 500

export const FORGOTTEN: ChangeEvent = {
  seq: 0,
  atMs: 0,
  kind: 'changed',
  ref: { object: 'deal', id: 0 },
  changes: [],
  cause: { by: 'derived', of: null },
  chainId: '',
  depth: 0,
  rulesOff: true,
}

/** Changes of records over those that lie below. */
export abstract class OverlayRecords extends OverlayDays {
  protected readonly writers = new Map<string, Cause>()
  /** What somebody did in here, by record. */
  protected readonly done = new Map<string, Activity[]>()
  protected readonly groups = new WeakMap<Group, CompiledGroup>()
  protected lastMade = MADE_FROM

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

  /** A page of what lies below and of what is here, by their numbers. */
  protected page(
    object: ObjectKind,
    below: (afterId: number, limit: number) => readonly RecordSnapshot[],
    test: (record: RecordSnapshot) => boolean,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[] {
    const changed = this.changedOf.get(object)
    if (!changed || changed.size === 0) return this.awake(below(afterId, limit))
    const found: RecordSnapshot[] = []
    for (let at = afterId; found.length < limit;) {
      const some = below(at, Math.max(limit, PAGE))
      for (const record of some) if (!changed.has(record.id)) found.push(record)
      const last = some.at(-1)
      if (!last || some.length < Math.max(limit, PAGE)) break
      at = last.id
    }
    return [...this.awake(found), ...this.own(object, test, afterId)].sort((a, b) => a.id - b.id).slice(0, limit)
  }

  least(object: ObjectKind, field: string, from: string | number): string | number | null {
    this.settle(`"${field}"`)
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
    this.settle(`"${field}"`)
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
    this.settle(`"${field}"`)
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
    const fits = (record: RecordSnapshot): boolean => test.test(subjectOf(record, this), moment)
    // What is asked of linked records may have changed here, which nothing below knows.
    const text = JSON.stringify(group)
    this.settle(text)
    const asksLinked = /"kind":"(?:linked|did)"/.test(text)
    const changed = this.records.size > 0 || this.done.size > 0 || this.linksAdded.length > 0 || this.linksGone.size > 0
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

  keep(
    ref: RecordRef,
    values: { readonly [field: string]: Value },
    cause: Cause,
    chain: ChainPlace,
    rulesOff = false,
    byDay = false,
  ): ChangeEvent | null {
    const record = this.read(ref)
    const changes = record ? planKept(ref.object, record.values, values, this.atMs, this.base.catalogue) : []
    if (!record || changes.length === 0) return null
    const next: Record<string, Value> = { ...record.values }
    for (const change of changes) next[change.field] = change.new
    this.set(ref, { object: record.object, id: record.id, version: record.version, values: next })
    return byDay && !changes.some((change) => this.heeds(ref, change))
      ? { seq: 0, atMs: this.atMs, kind: 'changed', ref, changes, cause, ...chain, rulesOff }
      : this.log('changed', ref, changes, cause, chain)
  }

  override rollUp(ref: RecordRef, field: Field, spec: RollUp, moment: Moment): Value {
    let where = this.wheres.get(field.id)
    if (!where) this.wheres.set(field.id, (where = compileWhere(spec, this.base.catalogue)))
    return rollUp(spec, where, this.linked(ref, spec.over), this, moment, this.base.catalogue)
  }

  protected readonly wheres = new Map<number, CompiledGroup>()

  override activities(ref: RecordRef): readonly Activity[] {
    const own = this.done.get(keyOf(ref))
    return own ? [...this.base.activities(ref), ...own] : this.base.activities(ref)
  }

  *past(ref: RecordRef, field: string, beforeSeq: number): Generator<Value> {
    for (let i = beforeSeq - 2; i >= 0; i--) {
      const event = this.events[i]
      if (!event || !sameRef(event.ref, ref)) continue
      const change = event.changes.find((one) => one.field === field)
      if (change) yield* [change.new, change.old]
    }
    yield* this.base.past(ref, field)
  }

  /** What nobody will ask about again needs no room: dates that move with each day would fill the machine. */
  forget(seq: number): void {
    this.events[seq - 1] = FORGOTTEN
  }

  write(ref: RecordRef, values: { readonly [field: string]: Value }, cause: Cause, chain: ChainPlace): WriteResult {
    const record = this.read(ref)
    if (!record)
      return {
        ok: false,
        problems: [{ path: '', problem: { code: 'recordGone', object: ref.object, id: ref.id } }],
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
    for (const to of linkTo)
      if (this.addLink(ref, to)) {
        // It was made with its links: only the other end has come to one.
        this.linksChanged([ref], cause)
        this.linksChanged([to], cause, [linkChange(ref.object, ref.id, 'added')])
      }
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

  /** Puts a record here as it was, without anything activity. */
  lay(record: RecordSnapshot): void {
    this.set(record, record)
  }

  /** Takes a record away without anything activity. */
  lift(ref: RecordRef): void {
    this.set(ref, null)
  }

  protected override log(
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
}
