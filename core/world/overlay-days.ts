import { Asked, type Derived } from '../derived/derivations'
import type { DayTurn } from '../engine/derive'
import { momentAt } from '../engine/moment'
import type { Moment } from '../conditions/moment'
import type { RollUp } from '../derived/making'
import type { Field } from '../fields/field'
import { sameValue, type Value } from '../language/value'
import { OBJECTS, type ObjectKind, type RecordRef } from '../records/kinds'
import type { Activity } from '../records/activity'
import type { FieldChange, RecordSnapshot } from '../records/record'
import { addDays, startOfDate } from '../time/dates'
import { keyOf, OverlayLinks } from './overlay-links'

/** Records made here get numbers that nothing below has. */
export const MADE_FROM = 1_000_000_000

/** A record whose values of the day need no look for some days: none of the changes is one anybody goes by. */
interface Asleep {
  readonly ref: RecordRef
  readonly fields: readonly Derived[]
  /** The day whose values stand in the record. */
  readonly through: string
  /** The day on which somebody goes by a change; `null` when that is behind the end. */
  readonly until: string | null
}

/**
 * Records over those that lie below, and what hangs on the day in them. That is found out for all days to come at once,
 * when a record is looked at: until somebody goes by a change it sleeps, and its values are worked out when somebody
 * reads it.
 */
export abstract class OverlayDays extends OverlayLinks {
  /** Only these records are started by the clock; all, when left open. */
  only: ReadonlySet<string> | null = null
  /** How far days are looked ahead; not at all when left open. */
  aheadToMs = -Infinity
  protected readonly records = new Map<string, RecordSnapshot | null>()
  protected readonly changedOf = new Map<ObjectKind, Set<number>>()
  private readonly asleep = new Map<ObjectKind, Map<number, Asleep>>()

  abstract rollUp(ref: RecordRef, field: Field, spec: RollUp, moment: Moment): Value
  abstract activities(ref: RecordRef): readonly Activity[]

  read(ref: RecordRef): RecordSnapshot | null {
    const key = keyOf(ref)
    const own = this.records.get(key)
    const record = own === undefined ? this.base.read(ref) : own
    const asleep = record && this.sleeping(ref)
    return asleep ? this.upToDate(record, asleep) : record
  }

  protected set(ref: RecordRef, record: RecordSnapshot | null): void {
    this.keepOwn(ref, record)
    this.wakeUp(ref)
  }

  private keepOwn(ref: RecordRef, record: RecordSnapshot | null): void {
    this.put(this.records, keyOf(ref), record)
    const changed = this.changedOf.get(ref.object) ?? new Set<number>()
    this.changedOf.set(ref.object, changed)
    changed.add(ref.id)
  }

  /** Whether anybody goes by a change of a value that the day brought. */
  protected abstract heeds(ref: RecordRef, change: FieldChange): boolean

  /** Records changed or made here that pass a test and are not below as they were. */
  protected own(object: ObjectKind, test: (record: RecordSnapshot) => boolean, afterId = 0): readonly RecordSnapshot[] {
    const found: RecordSnapshot[] = []
    for (const id of this.changedOf.get(object) ?? []) {
      const record = id > afterId ? this.read({ object, id }) : null
      if (record && test(record)) found.push(record)
    }
    return found
  }

  protected turn0: DayTurn | null = null
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

  /** What lies below is gone through every day: read whole the first time, by its numbers from then on. */
  private idsBelow(object: ObjectKind, afterId: number, limit: number): readonly number[] {
    if (this.only || this.goneThrough.has(object)) return this.base.ids(object, afterId, limit)
    const ids = this.base.behind(object, afterId, limit).map(({ id }) => id)
    if (ids.length < limit) this.goneThrough.add(object)
    return ids
  }
  private readonly goneThrough = new Set<ObjectKind>()

  behind(object: ObjectKind, afterId: number, limit: number): readonly RecordSnapshot[] {
    const found: RecordSnapshot[] = []
    const today = this.today()
    const asleep = this.asleep.get(object)
    const sleeps = (id: number): boolean => {
      const one = asleep?.get(id)
      return one !== undefined && (one.until === null || one.until > today)
    }
    for (let at = afterId; found.length < limit;) {
      const ids = this.idsBelow(object, at, limit)
      for (const id of ids) {
        if (sleeps(id) || (this.only && !this.only.has(keyOf({ object, id })))) continue
        const record = this.read({ object, id })
        if (record && found.length < limit) found.push(record)
      }
      const last = ids.at(-1)
      if (last === undefined || ids.length < limit) break
      at = last
    }
    return found.length < limit
      ? [
          ...found,
          ...this.own(
            object,
            (record) => record.id >= MADE_FROM && !sleeps(record.id),
            Math.max(afterId, MADE_FROM - 1),
          )
            .toSorted((a, b) => a.id - b.id)
            .slice(0, limit - found.length),
        ]
      : found
  }

  /** The midnight at which a day begins. */
  private midnight(day: string): Moment {
    const { workspace } = this.base.catalogue
    return momentAt(startOfDate(day, workspace.zone), workspace)
  }

  /** The midnights behind a day to the end; made once a day, for they are gone through for every record. */
  private daysBehind(today: string): readonly Moment[] {
    if (this.behindDay?.today === today) return this.behindDay.days
    const days: Moment[] = []
    for (let day = this.midnight(addDays(today, 1)); day.nowMs <= this.aheadToMs;) {
      days.push(day)
      day = this.midnight(addDays(day.today, 1))
    }
    this.behindDay = { today, days }
    return days
  }
  private behindDay: { readonly today: string; readonly days: readonly Moment[] } | null = null

  /** The day that has turned for a record: at midnight that comes to one behind the other. */
  private turnedTo({ object, id }: RecordRef): string {
    if (this.turn0 === null) return this.today()
    const { through, turning, object: at, afterId } = this.turn0
    if (turning === null || at === null) return through
    const order: readonly ObjectKind[] = OBJECTS
    const [own, under] = [order.indexOf(object), order.indexOf(at)]
    return own < under || (own === under && id <= afterId) ? turning : through
  }

  private sleeping({ object, id }: RecordRef): Asleep | null {
    return this.asleep.get(object)?.get(id) ?? null
  }

  private sleep({ object, id }: RecordRef, asleep: Asleep): void {
    const of = this.asleep.get(object) ?? new Map<number, Asleep>()
    this.asleep.set(object, of)
    this.put(of, id, asleep)
  }

  private today(): string {
    return momentAt(this.atMs, this.base.catalogue.workspace).today
  }

  /** What the day brings to a record's values, each with those before it; they are written into `values`. */
  private dayOf(
    asked: Asked,
    fields: readonly Derived[],
    values: { [field: string]: Value },
    each: ((change: FieldChange) => boolean) | null = null,
  ): boolean {
    let found = false
    for (const one of fields) {
      const { key } = one.field
      const [old, now] = [values[key] ?? null, one.value(asked)]
      if (sameValue(old, now)) continue
      values[key] = now
      asked.forget()
      found ||= each === null || each({ field: key, old, new: now })
    }
    return found
  }

  /**
   * Looks ahead which day is the first on which somebody goes by a change of values that the day brings; `fields` are
   * those that the day moves and those that hang on them, in their order. Their values are those of today.
   */
  lookAhead({ object, id }: RecordRef, fields: readonly Derived[]): void {
    const ref: RecordRef = { object, id }
    const record = this.read(ref)
    if (!record || this.aheadToMs <= this.atMs) return
    const today = this.today()
    const values = { ...record.values }
    const heeded = (change: FieldChange): boolean => this.heeds(ref, change)
    const asked = new Asked(this, { object, id, values }, this.midnight(today))
    for (const day of this.daysBehind(today)) {
      asked.turnTo(day)
      if (!this.dayOf(asked, fields, values, heeded)) continue
      this.sleep(ref, { ref, fields, through: today, until: day.today })
      return
    }
    this.sleep(ref, { ref, fields, through: today, until: null })
  }

  private upToDate(record: RecordSnapshot, asleep: Asleep): RecordSnapshot {
    const today = this.turnedTo(asleep.ref)
    // What somebody goes by is the turn of the day's to tell.
    const quiet = asleep.until !== null && asleep.until <= today ? addDays(asleep.until, -1) : today
    if (asleep.through >= quiet) return record
    this.sleep(asleep.ref, { ...asleep, through: quiet })
    const values = { ...record.values }
    const asked = new Asked(this, { ...asleep.ref, values }, this.midnight(quiet))
    if (!this.dayOf(asked, asleep.fields, values)) return record
    const now = { ...record, values }
    this.keepOwn(asleep.ref, now)
    return now
  }

  /** Something came that was not known when it was looked ahead: it is looked at every day again. */
  wakeUp(ref: RecordRef): void {
    const asleep = this.sleeping(ref)
    if (!asleep) return
    this.read(ref)
    this.asleep.get(ref.object)?.delete(ref.id)
    this.undoable(() => {
      this.asleep.get(ref.object)?.set(ref.id, asleep)
    })
  }

  /** Records that came from below with the values of today. */
  protected awake(records: readonly RecordSnapshot[]): readonly RecordSnapshot[] {
    return this.asleep.size === 0 ? records : records.map((record) => this.read(record) ?? record)
  }

  /** Works out what sleeps, when a question goes by it: `text` names the fields that are asked about. */
  protected settle(text: string): void {
    if (this.asleep.size === 0) return
    const asked = /"(inSegment|formula)"/.test(text)
    for (const { ref, fields } of [...this.asleep.values()].flatMap((some) => [...some.values()]))
      if (asked || fields.some(({ field }) => text.includes(`"${field.key}"`))) this.read(ref)
  }
}
