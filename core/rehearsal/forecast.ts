import type { Catalogue } from '../fields/catalogue'
import { count, figure, nounOf } from '../language/counts'
import { endedQuietly } from '../engine/world'
import type { ObjectKind, RecordRef } from '../records/kinds'
import { dateAt } from '../time/dates'
import { sayDate, sayInstant } from '../time/say'
import type { Rehearsal } from './rehearse'

/** What switching a rule on will bring in the days to come: a rehearsal of it, in the numbers that count beforehand. */

/** Something that is more than anybody would want without having seen it. */
export type ForecastLimit =
  /** It starts for more than a tenth of all records in one day: the worst of them, and on how many others. */
  | {
      readonly code: 'manyRecords'
      readonly day: string
      readonly records: number
      readonly of: number
      readonly others: number
    }
  /** Somebody gets more than twenty tasks and notices in one hour. */
  | { readonly code: 'manyToOne'; readonly personId: string; readonly hourMs: number; readonly things: number }
  /** The same text goes to one address more than once. */
  | { readonly code: 'sameText'; readonly recipient: string; readonly subject: string; readonly times: number }

export interface Forecast {
  /** The kind of records that the rule is about. */
  readonly object: ObjectKind
  readonly fromMs: number
  readonly toMs: number
  /** Where it ended; before `toMs` when it was cut. */
  readonly endMs: number
  /** Why it ended early; `null` when it did not. */
  readonly cut: string | null
  /** Runs that met the conditions, and records they are for. */
  readonly starts: number
  readonly records: number
  /** Runs that conditions kept out. */
  readonly keptOut: number
  readonly tasks: number
  readonly notices: number
  readonly emails: number
  /** Starts by day, in the workspace's zone; days without any are left out. */
  readonly byDay: readonly (readonly [day: string, starts: number])[]
  /** Those who get most, first. */
  readonly people: readonly { readonly id: string; readonly tasks: number; readonly notices: number }[]
  /** The records that it starts for most often, first. */
  readonly most: readonly { readonly ref: RecordRef; readonly name: string; readonly starts: number }[]
  readonly limits: readonly ForecastLimit[]
}

const SHOWN = 10
/** Of all records in one day. */
const RECORDS_SHARE = 0.1
/** Fewer records than this are never too many. */
const RECORDS_LEAST = 10
const THINGS_MOST = 20
const HOUR_MS = 3_600_000
const LIMITS_SHOWN = 5

const add = (into: Map<string, number>, key: string, n = 1): void => {
  into.set(key, (into.get(key) ?? 0) + n)
}
const top = (counted: ReadonlyMap<string, number>): readonly (readonly [string, number])[] =>
  [...counted].sort(([, a], [, b]) => b - a)

/** What a rehearsal of rules foretells; `total` is how many records of the kind there are. */
export function forecastOf(rehearsal: Rehearsal, object: ObjectKind, total: number): Forecast {
  const { world } = rehearsal
  const { zone } = world.base.catalogue.workspace
  const [byDay, byRecord, perDay] = [
    new Map<string, number>(),
    new Map<string, number>(),
    new Map<string, Set<string>>(),
  ]
  let [starts, keptOut] = [0, 0]
  for (const { run, atMs, end, below } of world.runs) {
    // What was begun before only goes on.
    if (below) continue
    if (endedQuietly(end?.stop)) {
      keptOut++
      continue
    }
    starts++
    const day = dateAt(atMs, zone)
    const key = `${run.ref.object}:${run.ref.id}`
    add(byDay, day)
    add(byRecord, key)
    const records = perDay.get(day) ?? new Set<string>()
    perDay.set(day, records)
    records.add(key)
  }
  const [tasks, notices] = [new Map<string, number>(), new Map<string, number>()]
  const [hours, texts] = [new Map<string, number>(), new Map<string, number>()]
  const hour = (personId: string, atMs: number): void =>
    add(hours, `${Math.floor(atMs / HOUR_MS) * HOUR_MS} ${personId}`)
  for (const { assigneeId, atMs } of world.tasks) {
    if (assigneeId === null) continue
    add(tasks, assigneeId)
    hour(assigneeId, atMs)
  }
  for (const { personId, atMs } of world.notices) {
    add(notices, personId)
    hour(personId, atMs)
  }
  const letters = [...world.letters.values()].map(({ letter }) => letter)
  for (const { address, subject, text } of letters) add(texts, JSON.stringify([address, subject, text]))
  for (const { recipient, subject, body } of world.messages.values())
    add(texts, JSON.stringify([recipient, subject, body]))
  const nameOf = (ref: RecordRef): string =>
    String((world.read(ref) ?? world.base.read(ref))?.values.name ?? `${ref.object} ${ref.id}`)

  const limits: ForecastLimit[] = []
  const many = [...perDay]
    .map(([day, { size: records }]) => ({ day, records }))
    .filter(({ records }) => records > RECORDS_LEAST && records > total * RECORDS_SHARE)
    .sort((a, b) => b.records - a.records)
  if (many[0]) limits.push({ code: 'manyRecords', ...many[0], of: total, others: many.length - 1 })
  const crowded = new Map<string, { readonly hourMs: number; readonly things: number }>()
  for (const [key, things] of top(hours)) {
    const at = key.indexOf(' ')
    const personId = key.slice(at + 1)
    if (things > THINGS_MOST && !crowded.has(personId))
      crowded.set(personId, { hourMs: Number(key.slice(0, at)), things })
  }
  for (const [personId, one] of crowded) limits.push({ code: 'manyToOne', personId, ...one })
  for (const [key, times] of top(texts)) {
    const [recipient = '', subject = ''] = JSON.parse(key) as string[]
    if (times > 1) limits.push({ code: 'sameText', recipient, subject, times })
  }
  const shown: { [C in ForecastLimit['code']]: number } = { manyRecords: 0, manyToOne: 0, sameText: 0 }
  return {
    object,
    fromMs: rehearsal.startMs,
    toMs: rehearsal.toMs,
    endMs: world.atMs,
    cut: rehearsal.cut,
    starts,
    records: byRecord.size,
    keptOut,
    tasks: world.tasks.length,
    notices: world.notices.length,
    emails: world.messages.size + letters.length,
    byDay: [...byDay].sort(([a], [b]) => a.localeCompare(b)),
    people: top(new Map([...tasks, ...notices].map(([id]) => [id, (tasks.get(id) ?? 0) + (notices.get(id) ?? 0)])))
      .slice(0, SHOWN)
      .map(([id]) => ({ id, tasks: tasks.get(id) ?? 0, notices: notices.get(id) ?? 0 })),
    most: top(byRecord)
      .slice(0, SHOWN)
      .map(([key, times]) => {
        const [of, id] = key.split(':')
        const ref = { object: of as ObjectKind, id: Number(id) }
        return { ref, name: nameOf(ref), starts: times }
      }),
    limits: limits.filter(({ code }) => ++shown[code] <= LIMITS_SHOWN),
  }
}

/** "On 30 Nov it starts for 375 of 400 deals." */
export function sayLimit(limit: ForecastLimit, object: ObjectKind, catalogue: Catalogue): string {
  switch (limit.code) {
    case 'manyRecords': {
      const often = limit.others > 0
      const days = `${sayDate(limit.day)}${often ? `, and on ${count(limit.others, 'day')} more,` : ''}`
      return `On ${days} it runs for ${often ? 'up to ' : ''}${figure(limit.records)} of ${count(limit.of, object)}.`
    }
    case 'manyToOne': {
      const who = catalogue.person(limit.personId)?.name ?? limit.personId
      const when = sayInstant(limit.hourMs, catalogue.workspace.zone)
      return `${who} gets ${figure(limit.things)} tasks and notifications within an hour (${when}).`
    }
    case 'sameText':
      return `“${limit.subject}” goes to ${limit.recipient} ${figure(limit.times)} ${nounOf(limit.times, 'time')}, word for word.`
  }
}
