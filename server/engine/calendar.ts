import { readCalendar, type Attendee, type CalendarEvent } from '../../core/formats/calendar'
import type { RecordRef } from '../../core/records/kinds'
import type { RecordSnapshot } from '../../core/records/record'
import { newChain } from './live-records'
import { RefusedError, type Workspace } from './workspace'
import { refuse } from './refuse'

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

export interface CalendarTaken {
  readonly added: number
  readonly changed: number
  readonly same: number
  /** Whole days and what is long over, which are no appointments. */
  readonly passed: number
}

/**
 * Takes the appointments of a calendar file as somebody's: each once by what the file calls it, with the contacts who
 * take part. Brought in again it changes what changed. Refuses what is no such file.
 */
export function takeCalendar(workspace: Workspace, text: string, personId: string): CalendarTaken {
  const { store, db, world } = workspace
  const nowMs = workspace.clock.nowMs()
  const read = readCalendar(text, nowMs - BACK_MS, nowMs + AHEAD_MS, workspace.catalogue().workspace.zone)
  if ('problem' in read) throw refuse('text', { code: 'entry', said: read.problem })
  const told = { added: 0, changed: 0, same: 0 }
  const cause = { by: 'person', personId } as const
  db.inTurn(() =>
    db.atomically(() => {
      workspace.keepUp()
      for (const event of read.events) {
        const values = {
          name: event.summary.slice(0, 200),
          start: event.startMs,
          end: event.endMs,
          place: event.place.slice(0, 200) || null,
          ...(event.cancelled ? { status: 'cancelled' } : {}),
        }
        const known = store.booking.ofUid(`${personId} ${event.uid}`)
        const ref = known === null ? null : ({ object: 'appointment', id: known } as const)
        if (ref && store.records.read(ref)) {
          const written = world.write(ref, values, cause, newChain())
          if (!written.ok) throw new RefusedError(written.problems)
          told[written.event ? 'changed' : 'same']++
          continue
        }
        const contacts = event.emails.flatMap((email): RecordRef[] => {
          const found = store.records.findBy('contact', 'email', email)[0]
          return found ? [{ object: 'contact', id: found.id }] : []
        })
        const made = workspace.createBy(
          'appointment',
          { status: 'booked', ...values, owner: personId, notes: event.notes.slice(0, 5000) || null },
          contacts,
          cause,
        )
        store.booking.callUid(`${personId} ${event.uid}`, made.id)
        told.added++
      }
    }),
  )
  workspace.drain()
  return { ...told, passed: read.passed }
}
