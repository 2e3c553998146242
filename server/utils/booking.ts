import type { H3Event } from 'h3'
import type { RecordSnapshot } from '../../core/records/record'
import { isZone } from '../../core/rules/clock'
import { sayProblem } from '../../core/language/problems'
import { isDate } from '../../core/time/dates'
import { freeTimes, freeTimesFor } from '../engine/booking'
import { readSigned } from '../engine/signed-link'
import { RefusedError } from '../engine/workspace'
import { BOOKING_POLICY, bookedPage, bookPage, gonePage, type Around, type Entered } from '../pages/booking'
import type { Html } from '../pages/html'
import { useWorkspace } from './workspace'

/** What the booking pages have in common: the zone of who looks, the answer, and what is shown where. */

const text = (value: unknown): string | null => (typeof value === 'string' && value !== '' ? value : null)

export function aroundOf(event: H3Event, problem?: string): Around {
  const { workspace } = useWorkspace().catalogue()
  const { zone } = getQuery(event)
  return { firm: workspace.name, zone: isZone(zone) ? zone : workspace.zone, problem }
}

export function showPage(event: H3Event, page: Html, status = 200): string {
  setResponseStatus(event, status)
  setResponseHeaders(event, {
    'content-type': 'text/html; charset=utf-8',
    'content-security-policy': BOOKING_POLICY,
    'x-frame-options': 'SAMEORIGIN',
    'referrer-policy': 'same-origin',
    'x-content-type-options': 'nosniff',
  })
  return page.text
}

const fromOf = (event: H3Event): string | null => {
  const from = text(getQuery(event).from)
  return from !== null && isDate(from) ? from : null
}

/** The page on which a kind is booked, or that there is none. */
export function showBooking(event: H3Event, entered: Entered, problem?: string, status = 200): string {
  const workspace = useWorkspace()
  const page = workspace.store.booking.page(getRouterParam(event, 'slug') ?? '')
  if (!page?.open) return showPage(event, gonePage(aroundOf(event)), 404)
  const person = text(getQuery(event).for)
  const contactId = person === null ? null : readSigned(workspace, 'contact', person)
  const values = contactId === null ? null : workspace.store.records.read({ object: 'contact', id: contactId })?.values
  const filled = {
    ...entered,
    name: entered.name || String(values?.name ?? ''),
    email: entered.email || String(values?.email ?? ''),
  }
  return showPage(
    event,
    bookPage(aroundOf(event, problem), page, freeTimes(workspace, page, contactId), {
      from: fromOf(event),
      person,
      entered: filled,
    }),
    status,
  )
}

/** The appointment that the address of a page is for; `null` for one that was not made here, or is gone. */
export function bookedBy(event: H3Event): RecordSnapshot | null {
  const workspace = useWorkspace()
  const id = readSigned(workspace, 'appointment', (getRouterParam(event, 'token') ?? '').replace(/\.ics$/, ''))
  return id === null ? null : workspace.store.records.read({ object: 'appointment', id })
}

export function showBooked(event: H3Event, problem?: string, status = 200): string {
  const workspace = useWorkspace()
  const record = bookedBy(event)
  if (!record) return showPage(event, gonePage(aroundOf(event)), 404)
  const { name, start, end, place, owner, status: state } = record.values
  const page = workspace.store.booking.pageOf(record.id)
  const startMs = Number(start)
  const movable = page !== null && startMs > workspace.clock.nowMs() && state === 'booked'
  return showPage(
    event,
    bookedPage(
      aroundOf(event, problem),
      {
        name: String(name ?? ''),
        startMs,
        endMs: Number(end ?? start),
        place: String(place ?? ''),
        withWhom: workspace.catalogue().person(String(owner))?.name ?? '',
        status: startMs <= workspace.clock.nowMs() && state === 'booked' ? 'over' : String(state ?? 'booked'),
        address: `/book/appointment/${getRouterParam(event, 'token') ?? ''}`,
      },
      movable ? freeTimesFor(workspace, page, record) : [],
      fromOf(event),
    ),
    status,
  )
}

/** Why something was refused, in words; anything else that is thrown goes on. */
export function refusedText(error: unknown): string {
  if (!(error instanceof RefusedError)) throw error
  return error.problems.map(({ problem }) => sayProblem(problem)).join(' ')
}
