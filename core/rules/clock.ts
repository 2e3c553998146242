import type { DecentHours } from '../messages/hours'
import { countryOf, hoursIn, type Messaging } from '../messages/settings'
import type { Group } from '../conditions/document'
import type { Catalogue } from '../fields/catalogue'
import type { Values } from '../language/value'
import type { ObjectKind, RecordRef } from '../records/kinds'
import type { RecordSnapshot } from '../records/record'
import { workCalendar, type WorkCalendar } from '../time/calendar'
import type { Hours } from '../fields/field'

/**
 * How triggers that go by the clock find their records. A record and one moment start a rule once, whatever happens.
 */

export interface ClockStart {
  readonly ref: RecordRef
  /** Names the one moment of the one record. */
  readonly occurrence: string
  /** What has come, in words. */
  readonly because: string
  /** The same while it is still to come. */
  readonly coming: string
}

/**
 * What such a trigger may ask of a world. Values of a field are found by an index, so that only what is due is read.
 */
export interface ClockRecords {
  catalogue(): Catalogue
  read(ref: RecordRef): RecordSnapshot | null
  related(ref: RecordRef, object: ObjectKind): RecordSnapshot | null
  /** The smallest value of a date field that is not below this one. */
  least(object: ObjectKind, field: string, from: string | number): string | number | null
  /** Records whose field holds one of these values, by their numbers, behind one of them. */
  holding(
    object: ObjectKind,
    field: string,
    values: readonly (string | number)[],
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[]
  /** Records whose field lies between two values, both included, by their numbers. */
  between(
    object: ObjectKind,
    field: string,
    from: number,
    to: number,
    afterId: number,
    limit: number,
  ): readonly RecordSnapshot[]
  /** Numbers of records that meet conditions now. */
  matching(object: ObjectKind, group: Group, afterId: number, limit: number): readonly number[]
}

export interface ClockTrigger {
  /** The fields of a record whose changes move its moments. */
  readonly fields: readonly string[]
  /** By whose clock it goes. */
  readonly zone: ZoneOf
  /** The first moment behind an instant at which it may start something; `null` when none is known. */
  next(records: ClockRecords, afterMs: number): number | null
  /**
   * What it starts at a moment, by the numbers of the records; `last` is the last one looked at, `null` when all were.
   */
  due(
    records: ClockRecords,
    atMs: number,
    afterId: number,
    limit: number,
  ): { readonly starts: readonly ClockStart[]; readonly last: number | null }
  /** The next moment of one record with these values. */
  momentOf(records: ClockRecords, record: RecordSnapshot, afterMs: number): number | null
}

/** By whose clock a time of day is meant. */
export const ZONE_OF = ['workspace', 'owner', 'contact'] as const
export type ZoneOf = (typeof ZONE_OF)[number]
export const ZONE_WORDS: { readonly [Z in ZoneOf]: string } = {
  workspace: 'workspace time',
  owner: 'owner’s local time',
  contact: 'contact’s local time',
}

const known = new Map<string, boolean>()
/** Whether a text names a time zone of the IANA database. */
export function isZone(text: unknown): text is string {
  if (typeof text !== 'string' || text === '') return false
  let found = known.get(text)
  if (found === undefined) {
    try {
      found = new Intl.DateTimeFormat('en', { timeZone: text }).resolvedOptions().timeZone !== ''
    } catch {
      found = false
    }
    known.set(text, found)
  }
  return found
}

/** The field of contacts that holds their time zone. */
export const ZONE_FIELD = 'zone'

/** The zone of a record: its owner's, its contact's, or the workspace's where they have none. */
export function zoneOf(
  whose: ZoneOf,
  record: { readonly object: ObjectKind; readonly id: number; readonly values: Values },
  related: ClockRecords['related'],
  catalogue: Catalogue,
): string {
  const own = catalogue.workspace.zone
  if (whose === 'workspace') return own
  if (whose === 'owner')
    return (typeof record.values.owner === 'string' ? catalogue.person(record.values.owner)?.zone : null) ?? own
  const contact = record.object === 'contact' ? record : related({ object: record.object, id: record.id }, 'contact')
  const zone = contact?.values[ZONE_FIELD]
  return isZone(zone) ? zone : own
}

/**
 * By what clock a contact lives, and when they may be written to: their own zone, else their company’s country’s, else
 * the workspace’s; the hours of that country.
 */
export function decentFor(
  contact: Values,
  company: Values,
  messaging: Messaging,
  workspaceZone: string,
): { readonly zone: string; readonly hours: DecentHours } {
  const country = contact.country ?? company.country
  const own = contact[ZONE_FIELD]
  const zone = isZone(own) ? own : (countryOf(messaging, country)?.zone ?? workspaceZone)
  return { zone, hours: hoursIn(messaging, country) }
}

const calendars = new WeakMap<Hours, WorkCalendar>()
function kept(hours: Hours): WorkCalendar {
  let found = calendars.get(hours)
  if (!found) calendars.set(hours, (found = workCalendar(hours)))
  return found
}

/** The days on which the firm works. */
export const calendarOf = ({ workspace }: Catalogue): WorkCalendar => kept(workspace)

/** When somebody works: by their team's hours where it has its own, otherwise by the firm's. */
export function hoursOf(catalogue: Catalogue, personId: unknown): Hours {
  const { workspace } = catalogue
  if (!workspace.teams || workspace.teams.length === 0 || typeof personId !== 'string') return workspace
  const team = catalogue.person(personId)?.team
  return workspace.teams.find((one) => one.team === team) ?? workspace
}

/** The days on which somebody works. */
export const workdaysOf = (catalogue: Catalogue, personId: unknown): WorkCalendar => kept(hoursOf(catalogue, personId))
