import type { Attendee, CalendarEvent } from '../../core/formats/calendar'
import type { RecordSnapshot } from '../../core/records/record'
import type { Workspace } from './workspace'

/** Appointments as calendars have them. */

const DAY_MS = 86_400_000
/** A feed tells of what was, and of what is to come. */
const BACK_MS = 90 * DAY_MS
const AHEAD_MS = 366 * DAY_MS
const PIECE = 500
const HOUR_MS = 3_600_000

/** The host of the identifiers, which never changes: who subscribed would see everything twice otherwise. */
const UID_HOST = 'sky-lever'

export function eventOf(workspace: Workspace, record: RecordSnapshot): CalendarEvent {
  const { id, version, values } = record
  const startMs = Number(values.start)
  const owner = workspace.catalogue().person(String(values.owner))
  const attendees = workspace.world
    .linked({ object: 'appointment', id }, 'contact')
    .flatMap(({ record: { values: of } }): Attendee[] =>
      typeof of.email === 'string' ? [{ name: String(of.name ?? ''), email: of.email }] : [],
    )
  return {
    uid: `appointment-${id}@${UID_HOST}`,
    sequence: version,
    summary: String(values.name ?? ''),
    startMs,
    endMs: typeof values.end === 'number' ? values.end : startMs + HOUR_MS,
    place: String(values.place ?? ''),
    notes: String(values.notes ?? ''),
    cancelled: values.status === 'cancelled',
    changedMs: workspace.store.records.times({ object: 'appointment', id })?.updatedAt ?? workspace.clock.nowMs(),
    organizer: owner ? { name: owner.name, email: owner.email } : null,
    attendees,
  }
}

/** Every appointment between two instants (ms), in the order of their start. */
export function appointmentsBetween(workspace: Workspace, fromMs: number, toMs: number): readonly RecordSnapshot[] {
  const found: RecordSnapshot[] = []
  for (let after = 0; ;) {
    const piece = workspace.store.records.between('appointment', 'start', fromMs, toMs, after, PIECE)
    found.push(...piece)
    const last = piece.at(-1)
    if (!last || piece.length < PIECE) break
    after = last.id
  }
  return found.sort((a, b) => Number(a.values.start) - Number(b.values.start) || a.id - b.id)
}

/** What somebody’s calendar feed tells of. */
export function feedEvents(workspace: Workspace, personId: string): readonly CalendarEvent[] {
  const nowMs = workspace.clock.nowMs()
  return appointmentsBetween(workspace, nowMs - BACK_MS, nowMs + AHEAD_MS)
    .filter(({ values }) => values.owner === personId)
    .map((record) => eventOf(workspace, record))
}

/** Where a feed is read, by its secret. */
export const feedPath = (secret: string): string => `/calendar/${secret}.ics`
