import type { BookingPage } from '../../core/booking/page'
import { freeStarts, whoseTurn, type Taken } from '../../core/booking/slots'
import type { Person } from '../../core/fields/field'
import type { RecordRef } from '../../core/records/kinds'
import type { Cause, RecordSnapshot } from '../../core/records/record'
import { hoursOf } from '../../core/rules/clock'
import { appointmentsBetween } from './calendar'
import { becomeKnown } from './activity-log'
import { newChain } from './live-records'
import { RefusedError, type Workspace } from './workspace'
import { refuse } from './refuse'

/** Appointments that people book, move and cancel by themselves. */

const MINUTE_MS = 60_000
const DAY_MS = 24 * 60 * MINUTE_MS
/** The longest appointment that still takes time when one that begins later is asked about. */
const LONGEST_MS = DAY_MS
/** Nobody of the firm did it: it came from outside. */
const FROM_OUTSIDE: Cause = { by: 'activity', activityId: 0 }

/** Every appointment that takes somebody’s time between two instants, but for one. */
const appointmentsIn = (workspace: Workspace, fromMs: number, toMs: number, but?: number): readonly RecordSnapshot[] =>
  appointmentsBetween(workspace, fromMs - LONGEST_MS, toMs).filter(
    ({ id, values }) => id !== but && values.status !== 'cancelled' && values.status !== 'missed',
  )

const takenBy = (some: readonly RecordSnapshot[], personId: string): readonly Taken[] =>
  some.flatMap(({ values }) =>
    values.owner === personId && typeof values.start === 'number'
      ? [{ startMs: values.start, endMs: typeof values.end === 'number' ? values.end : values.start + 60 * MINUTE_MS }]
      : [],
  )

/** Whom it may be with: the contact’s owner where the page wants that and there is one, else its people. */
function candidates(workspace: Workspace, page: BookingPage, contactId: number | null): readonly Person[] {
  const catalogue = workspace.catalogue()
  const owner =
    page.with === 'owner' && contactId !== null
      ? workspace.store.records.read({ object: 'contact', id: contactId })?.values.owner
      : null
  const known = typeof owner === 'string' ? catalogue.person(owner) : null
  if (known?.active) return [known]
  return page.people.flatMap((id) => catalogue.person(id) ?? [])
}

interface Free {
  readonly id: string
  readonly starts: readonly number[]
  /** How many appointments they have in these days. */
  readonly count: number
}

function freeOf(workspace: Workspace, page: BookingPage, people: readonly Person[], but?: number): readonly Free[] {
  const nowMs = workspace.clock.nowMs()
  const catalogue = workspace.catalogue()
  const some = appointmentsIn(workspace, nowMs - DAY_MS, nowMs + (page.daysAhead + 2) * DAY_MS, but)
  return people.map((person) => {
    const taken = takenBy(some, person.id)
    const hours = hoursOf(catalogue, person.id)
    const starts = freeStarts(page, { person, hours, zone: catalogue.workspace.zone, taken }, nowMs)
    return { id: person.id, starts, count: taken.length }
  })
}

/** When it can be booked, in order (ms UTC); by a contact who is known, or by anybody. */
export function freeTimes(workspace: Workspace, page: BookingPage, contactId: number | null): readonly number[] {
  if (!page.open) return []
  const starts = freeOf(workspace, page, candidates(workspace, page, contactId)).flatMap((one) => one.starts)
  return [...new Set(starts)].sort((a, b) => a - b)
}

/** When an appointment can be moved to: the person stays. */
export function freeTimesFor(
  workspace: Workspace,
  page: BookingPage,
  { id, values }: RecordSnapshot,
): readonly number[] {
  const person = typeof values.owner === 'string' ? workspace.catalogue().person(values.owner) : null
  return person ? (freeOf(workspace, page, [person], id)[0]?.starts ?? []) : []
}

export interface Wanted {
  readonly startMs: number
  readonly name: string
  readonly email: string
  readonly note: string
  /** The browser it is booked in. */
  readonly visitor: string | null
}

const taken = (): RefusedError => refuse('time', { code: 'timeTaken' })

/** The newest open deal of a contact: the appointment is about that. */
function openDealOf(workspace: Workspace, contact: RecordRef): RecordRef | null {
  const open = workspace.world
    .linked(contact, 'deal')
    .filter(({ record }) => workspace.catalogue().stage(String(record.values.stage))?.outcome === 'open')
    .map(({ record }) => record.id)
  return open.length === 0 ? null : { object: 'deal', id: Math.max(...open) }
}

/**
 * Books: whoever wants it becomes a contact where they are none. One transaction from the look to the write, so that a
 * time is given once. Refuses a time that is not free any more.
 */
export function book(workspace: Workspace, page: BookingPage, wanted: Wanted): RecordRef {
  const { db, store } = workspace
  const email = wanted.email.trim().toLowerCase()
  const made = db.inTurn(() =>
    db.atomically(() => {
      workspace.keepUp()
      const known = store.records.findBy('contact', 'email', email)[0]?.id ?? null
      const free = freeOf(workspace, page, candidates(workspace, page, known)).filter((one) =>
        one.starts.includes(wanted.startMs),
      )
      const owner = page.open ? whoseTurn(free) : null
      if (!owner) throw taken()
      const contact: RecordRef =
        known === null
          ? workspace.createBy('contact', { name: wanted.name.trim(), email, owner: owner.id }, [], FROM_OUTSIDE)
          : { object: 'contact', id: known }
      if (wanted.visitor !== null) {
        store.visitors.seen(wanted.visitor, workspace.clock.nowMs())
        becomeKnown(workspace, wanted.visitor, contact.id)
      }
      const deal = openDealOf(workspace, contact)
      const ref = workspace.createBy(
        'appointment',
        {
          name: page.name,
          start: wanted.startMs,
          end: wanted.startMs + page.minutes * MINUTE_MS,
          status: 'booked',
          place: page.place || null,
          owner: owner.id,
          notes: wanted.note.trim() || null,
        },
        [contact, ...(deal ? [deal] : [])],
        FROM_OUTSIDE,
      )
      store.booking.booked(ref.id, page.slug)
      return ref
    }),
  )
  workspace.drain()
  workspace.live.tell({ about: 'records', refs: [made] })
  return made
}

function change(
  workspace: Workspace,
  id: number,
  values: (record: RecordSnapshot) => Record<string, string | number>,
): void {
  const { db, store, world } = workspace
  const ref: RecordRef = { object: 'appointment', id }
  db.inTurn(() =>
    db.atomically(() => {
      workspace.keepUp()
      const record = store.records.read(ref)
      if (!record || record.values.status === 'cancelled' || Number(record.values.start) <= workspace.clock.nowMs())
        throw refuse('time', { code: 'appointmentOver' })
      const written = world.write(ref, values(record), FROM_OUTSIDE, newChain())
      if (!written.ok) throw new RefusedError(written.problems)
    }),
  )
  workspace.drain()
}

/** Moves what was booked to another free time of the same person. */
export function moveBooking(workspace: Workspace, id: number, startMs: number): void {
  change(workspace, id, (record) => {
    const page = workspace.store.booking.pageOf(id)
    if (!page || !freeTimesFor(workspace, page, record).includes(startMs)) throw taken()
    return { start: startMs, end: startMs + page.minutes * MINUTE_MS }
  })
}

export const cancelBooking = (workspace: Workspace, id: number): void =>
  change(workspace, id, () => ({ status: 'cancelled' }))
