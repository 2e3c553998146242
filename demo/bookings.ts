import { createHash } from 'node:crypto'
import type { BookingPage } from '../core/booking/page'
import type { RecordRef } from '../core/records/kinds'
import { book, freeTimes } from '../server/engine/booking'
import { signed } from '../server/engine/signed-link'
import { takeReport } from '../server/engine/visitor-report'
import type { Workspace } from '../server/engine/workspace'
import type { Act } from './generate'
import type { Random } from './random'

/**
 * Visits, forms and bookings of the demo's customers. They go by the public functions, so that keys, visitors and free
 * times are real ones.
 */

const PAGES: readonly BookingPage[] = [
  {
    slug: 'site-visit',
    name: 'Site visit',
    text: 'We look at the place, measure, and say what fits.',
    place: 'At your place',
    minutes: 60,
    noticeHours: 24,
    bufferMinutes: 30,
    daysAhead: 21,
    with: 'owner',
    people: ['rosa', 'tomasz', 'brisa', 'jude', 'anouk', 'callum'],
    open: true,
  },
  {
    slug: 'video-call',
    name: 'Video call',
    text: 'A quarter of an hour for a first question.',
    place: 'https://meet.larkmoor.example',
    minutes: 15,
    noticeHours: 2,
    bufferMinutes: 0,
    daysAhead: 14,
    with: 'turn',
    people: ['rosa', 'jude'],
    open: true,
  },
]

const random32 = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 32)

export class Bookings {
  private readonly open: { readonly atMs: number; readonly over: () => void }[] = []
  private told = 0

  constructor(
    private readonly workspace: Workspace,
    private readonly random: Random,
  ) {
    for (const { slug, ...page } of PAGES) workspace.store.booking.put(slug, page, workspace.clock.nowMs())
  }

  /** What is over by an instant, in order. */
  *overBy(atMs: number): Generator<{ readonly atMs: number; readonly over: () => void }> {
    this.open.sort((a, b) => a.atMs - b.atMs)
    while (this.open[0] && this.open[0].atMs <= atMs) {
      const [first] = this.open.splice(0, 1)
      if (first) yield first
    }
  }

  /** Takes an act of a customer, if it is one that they do by themselves. */
  take(contact: RecordRef, { kind, about }: Extract<Act, { act: 'activity' }>): boolean {
    if (kind === 'visit' || kind === 'form') {
      takeReport(this.workspace, {
        visitor: random32(`visitor ${contact.id}`),
        key: random32(`act ${++this.told}`),
        kind,
        about,
        data: {},
        person: signed(this.workspace, 'contact', contact.id),
      })
      return true
    }
    return kind === 'appointment' && this.book(contact)
  }

  private book(contact: RecordRef): boolean {
    const { workspace, random } = this
    const [page] = PAGES
    const values = workspace.store.records.read(contact)?.values
    if (!page || typeof values?.email !== 'string') return false
    const times = freeTimes(workspace, page, contact.id)
    const startMs = times[random.int(0, Math.max(0, times.length - 1))]
    if (startMs === undefined) return false
    const note = random.chance(0.4) ? 'Two units, from spring.' : ''
    const ref = book(workspace, page, { startMs, name: String(values.name), email: values.email, note, visitor: null })
    const status = random.chance(0.15) ? 'missed' : 'attended'
    const endMs = startMs + page.minutes * 60_000
    this.open.push({ atMs: endMs, over: () => void workspace.change(ref, { status }, String(values.owner ?? 'rosa')) })
    return true
  }
}
