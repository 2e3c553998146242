import { and, desc, eq, asc, gt, gte, lt, sql } from 'drizzle-orm'
import type { RecordRef } from '../../core/records/kinds'
import type { ChangeEvent } from '../../core/records/record'
import { aboutOf, type Listen } from '../../core/signals'
import type { Field } from '../../core/fields/field'
import type { Value } from '../../core/language/value'
import type { Db } from '../db/connect'
import { prepareInsert, prepareInserts } from '../db/prepared'
import { eventPositions, events, history } from '../db/schema/records'

type EventRow = typeof events.$inferSelect

const toEvent = ({ object, recordId, ...row }: EventRow): ChangeEvent => ({ ...row, ref: { object, id: recordId } })

/** A row as an array, on the path that every event takes: an object a row would cost more than its query. */
type RawEvent = readonly [
  seq: number,
  atMs: number,
  kind: ChangeEvent['kind'],
  object: RecordRef['object'],
  recordId: number,
  changes: string,
  cause: string,
  chainId: string,
  depth: number,
  rulesOff: number,
]

const fromRaw = ([seq, atMs, kind, object, id, changes, cause, chainId, depth, rulesOff]: RawEvent): ChangeEvent => ({
  seq,
  atMs,
  kind,
  ref: { object, id },
  changes: JSON.parse(changes) as ChangeEvent['changes'],
  cause: JSON.parse(cause) as ChangeEvent['cause'],
  chainId,
  depth,
  rulesOff: rulesOff === 1,
})

/** Values that hang on the day are other ones every day. */
const NOT_DAILY = sql`NOT (${events.cause} ->> '$.by' = 'derived' AND ${events.cause} ->> '$.of' IS NULL)`

/** The log of committed changes, the history of each field, and how far each reader of the log has come. */
export class EventStore {
  private readonly insertEvent
  private readonly insertHistory
  private readonly readAfter
  private readonly readPosition
  private readonly writePosition
  private readonly readWriter
  private readonly standing

  constructor(private readonly db: Db) {
    const { orm } = db
    const at = sql.placeholder
    this.insertEvent = prepareInsert(db.sqlite, events, [
      'atMs',
      'kind',
      'object',
      'recordId',
      'changes',
      'cause',
      'chainId',
      'depth',
      'rulesOff',
    ])
    this.insertHistory = prepareInserts(db.sqlite, history, ['eventSeq', 'fieldId', 'object', 'recordId', 'old', 'new'])
    this.readAfter = db.sqlite
      .prepare<[number, number], RawEvent>(
        'SELECT seq, at_ms, kind, object, record_id, changes, cause, chain_id, depth, rules_off FROM events WHERE seq > ? ORDER BY seq LIMIT ?',
      )
      .raw()
    this.readWriter = db.sqlite.prepare<[string, number, number], { cause: string }>(
      'SELECT e.cause FROM history AS h JOIN events AS e ON e.seq = h.event_seq WHERE h.object = ? AND h.record_id = ? AND h.field_id = ? ORDER BY h.event_seq DESC LIMIT 1',
    )
    this.standing = db.sqlite.prepare<[string, number, number], { seq: number }>(
      `SELECT h.event_seq AS seq FROM history AS h JOIN events AS e ON e.seq = h.event_seq
      LEFT JOIN runs AS r ON r.id = json_extract(e.cause, '$.runId')
      WHERE h.object = ? AND h.record_id = ? AND h.field_id = ? AND json_extract(e.cause, '$.undoes') IS NULL AND r.undone_at IS NULL
      ORDER BY h.event_seq DESC LIMIT 1`,
    )
    this.readPosition = orm
      .select()
      .from(eventPositions)
      .where(eq(eventPositions.reader, at('reader')))
      .prepare()
    this.writePosition = orm
      .insert(eventPositions)
      .values({ reader: at('reader'), seq: at('seq') })
      .onConflictDoUpdate({ target: eventPositions.reader, set: { seq: sql`excluded.seq` } })
      .prepare()
  }

  /** What a field held before a change, the newest first, on both sides of each change that is kept. */
  past({ object, id }: RecordRef, fieldId: number, beforeSeq: number, limit: number): readonly Value[] {
    return this.db.orm
      .select({ old: history.old, new: history.new })
      .from(history)
      .where(
        and(
          eq(history.object, object),
          eq(history.recordId, id),
          eq(history.fieldId, fieldId),
          lt(history.eventSeq, beforeSeq),
        ),
      )
      .orderBy(desc(history.eventSeq))
      .limit(limit)
      .all()
      .flatMap((row) => [row.new ?? null, row.old ?? null])
  }

  /** Adds an event and the history of its fields. Belongs into the transaction that writes the record. */
  append(event: Omit<ChangeEvent, 'seq'>, fieldOf: (key: string) => Field | null): ChangeEvent {
    const { ref, atMs, kind, changes, cause, chainId, depth, rulesOff } = event
    const seq = Number(
      this.insertEvent({ atMs, kind, object: ref.object, recordId: ref.id, changes, cause, chainId, depth, rulesOff })
        .lastInsertRowid,
    )
    const rows = []
    for (const change of changes) {
      const field = fieldOf(change.field)
      if (field)
        rows.push({
          eventSeq: seq,
          fieldId: field.id,
          object: ref.object,
          recordId: ref.id,
          old: change.old,
          new: change.new,
        })
    }
    this.insertHistory(rows)
    return { seq, atMs, kind, ref, changes, cause, chainId, depth, rulesOff }
  }

  after(seq: number, limit: number): readonly ChangeEvent[] {
    return this.readAfter.all(seq, limit).map(fromRaw)
  }

  position(reader: string): number {
    return this.readPosition.get({ reader })?.seq ?? 0
  }

  /** How many events a reader has not seen yet. */
  behind(reader: string): number {
    return this.last() - this.position(reader)
  }

  setPosition(reader: string, seq: number): void {
    this.writePosition.run({ reader, seq })
  }

  get(seq: number): ChangeEvent | null {
    const row = this.db.orm.select().from(events).where(eq(events.seq, seq)).get()
    return row ? toEvent(row) : null
  }

  /**
   * The newest events of a record, newest first; what the turn of the day works out anew every day would bury all
   * others, and is left out.
   */
  ofRecord({ object, id }: RecordRef, limit: number, beforeSeq = Number.MAX_SAFE_INTEGER): readonly ChangeEvent[] {
    return this.db.orm
      .select()
      .from(events)
      .where(and(eq(events.object, object), eq(events.recordId, id), lt(events.seq, beforeSeq), NOT_DAILY))
      .orderBy(desc(events.seq))
      .limit(limit)
      .all()
      .map(toEvent)
  }

  /** The newest events of a record that wrote a field, newest first. */
  ofField({ object, id }: RecordRef, fieldId: number, limit: number): readonly ChangeEvent[] {
    return this.db.orm
      .select({ event: events })
      .from(history)
      .innerJoin(events, eq(events.seq, history.eventSeq))
      .where(and(eq(history.object, object), eq(history.recordId, id), eq(history.fieldId, fieldId)))
      .orderBy(desc(history.eventSeq))
      .limit(limit)
      .all()
      .map((row) => toEvent(row.event))
  }

  /** Everything that was committed from an instant on, oldest first. */
  from(atMs: number): readonly ChangeEvent[] {
    return this.db.orm.select().from(events).where(gte(events.atMs, atMs)).orderBy(asc(events.seq)).all().map(toEvent)
  }

  ofChain(chainId: string): readonly ChangeEvent[] {
    return this.db.orm
      .select()
      .from(events)
      .where(eq(events.chainId, chainId))
      .orderBy(asc(events.seq))
      .all()
      .map(toEvent)
  }

  /**
   * Events of a kind of record from an instant on and behind a number, oldest first; only those that may be among what
   * is listened to. What changed is read when it is asked for.
   */
  *since(
    object: RecordRef['object'],
    fromMs: number,
    afterSeq: number,
    listens: readonly Listen[],
  ): Generator<Pick<ChangeEvent, 'kind' | 'changes' | 'atMs' | 'seq' | 'ref'>> {
    if (listens.length === 0) return
    // Fields are named in the text of the changes by their keys: a search in it is far cheaper than reading all of it.
    const wanted = listens.map((one) => {
      const about = aboutOf(one)
      return 'kind' in about
        ? { text: 'kind = ?', bound: [about.kind] }
        : { text: 'instr(changes, ?) > 0', bound: [`{"field":${JSON.stringify(about.field)},`] }
    })
    const rows = this.db.sqlite
      .prepare<unknown[], readonly [number, number, number, ChangeEvent['kind'], string]>(
        `SELECT seq, record_id, at_ms, kind, changes FROM events WHERE seq > ? AND at_ms >= ? AND object = ? AND (${wanted.map((one) => one.text).join(' OR ')}) ORDER BY seq`,
      )
      .raw()
      .all(afterSeq, fromMs, object, ...wanted.flatMap((one) => one.bound))
    for (const [seq, id, atMs, kind, changes] of rows) {
      yield {
        seq,
        ref: { object, id },
        atMs,
        kind,
        get changes() {
          return JSON.parse(changes) as ChangeEvent['changes']
        },
      }
    }
  }

  /** The number of the newest event; 0 when there is none. */
  last(): number {
    return (
      this.db.orm
        .select({ last: sql<number>`coalesce(max(${events.seq}), 0)` })
        .from(events)
        .get()?.last ?? 0
    )
  }

  /**
   * The last event that wrote a field of a record, apart from what was taken back since and from the taking back;
   * `null` when there is none.
   */
  lastStanding({ object, id }: RecordRef, fieldId: number): number | null {
    return this.standing.get(object, id, fieldId)?.seq ?? null
  }

  /**
   * Whether anything happened with a record behind an event, apart from what was worked out, what it was linked to, and
   * what one run did.
   */
  anyAfter({ object, id }: RecordRef, seq: number, butRunId: number): boolean {
    return (
      this.db.orm
        .select({ seq: events.seq })
        .from(events)
        .where(
          and(
            eq(events.object, object),
            eq(events.recordId, id),
            gt(events.seq, seq),
            sql`${events.kind} NOT IN ('linked', 'taskDone', 'replied') AND ${events.cause} ->> '$.by' <> 'derived'
              AND coalesce(${events.cause} ->> '$.runId', 0) <> ${butRunId}`,
          ),
        )
        .limit(1)
        .get() !== undefined
    )
  }

  /** What wrote the value that a field holds; `null` when nothing has. */
  lastWriter({ object, id }: RecordRef, fieldId: number): ChangeEvent['cause'] | null {
    const row = this.readWriter.get(object, id, fieldId)
    return row ? (JSON.parse(row.cause) as ChangeEvent['cause']) : null
  }

  /** The last event that wrote each field of a record, by field id. */
  lastWriters({ object, id }: RecordRef): ReadonlyMap<number, number> {
    const rows = this.db.orm
      .select({ fieldId: history.fieldId, seq: sql<number>`max(${history.eventSeq})` })
      .from(history)
      .where(and(eq(history.object, object), eq(history.recordId, id)))
      .groupBy(history.fieldId)
      .all()
    return new Map(rows.map((row) => [row.fieldId, row.seq]))
  }
}
