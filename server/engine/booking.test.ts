import { describe, expect, it } from 'vitest'
import type { BookingPage } from '../../core/booking/page'
import { document, task } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { refusal } from '../testing/refusal'
import { book, cancelBooking, freeTimes, freeTimesFor, moveBooking, type Wanted } from './booking'
import { readSigned, signed } from './signed-link'
import { tellActivities } from './activities'
import type { Workspace } from './workspace'

const HOUR_MS = 3_600_000
const PAGE: BookingPage = {
  slug: 'site-visit',
  name: 'Site visit',
  text: '',
  place: 'Your yard',
  minutes: 60,
  noticeHours: 2,
  bufferMinutes: 0,
  daysAhead: 5,
  with: 'turn',
  people: ['rosa', 'jude'],
  open: true,
}
const setting = (more: Partial<BookingPage> = {}) => {
  const { workspace, ...rest } = larkmoor()
  const page = { ...PAGE, ...more }
  const { slug, ...given } = page
  workspace.store.booking.put(slug, given, 1)
  return { workspace, page, ...rest }
}
const ask = (startMs: number, more: Partial<Wanted> = {}): Wanted => ({
  startMs,
  name: 'Ada Lind',
  email: 'ada@x.example',
  note: '',
  visitor: null,
  ...more,
})
const held = (workspace: Workspace, id: number) => workspace.store.records.read({ object: 'appointment', id })?.values

describe('booking', () => {
  it('makes a contact and an appointment of whoever has the fewest, and gives a time once for each person', () => {
    const { workspace, page, reopen } = setting()
    const [first = 0] = freeTimes(workspace, page, null)
    const one = book(workspace, page, ask(first, { note: ' Two units ' }))
    expect(held(workspace, one.id)).toMatchObject({
      name: 'Site visit',
      start: first,
      end: first + HOUR_MS,
      status: 'booked',
      place: 'Your yard',
      owner: 'rosa',
      notes: 'Two units',
    })
    // Another process has the other person, and then nobody is left.
    const other = reopen()
    expect(held(other, book(other, page, ask(first, { email: 'bea@x.example' })).id)?.owner).toBe('jude')
    expect(refusal(() => book(workspace, page, ask(first, { email: 'cem@x.example' })))).toMatch(/just been taken/)
    expect(workspace.store.records.findBy('contact', 'email', 'cem@x.example')).toEqual([])
    expect(freeTimes(workspace, page, null)).not.toContain(first)
    const contacts = workspace.store.records.findBy('contact', 'email', 'ada@x.example')
    expect(contacts.map(({ values }) => [values.name, values.owner])).toEqual([['Ada Lind', 'rosa']])
  })

  it('is with the owner of who is known, about their newest open deal, and tells who was visiting', () => {
    const { workspace, page } = setting({ with: 'owner' })
    const ada = workspace.create('contact', { name: 'Ada', email: 'Ada@x.example', owner: 'tomasz' }, [], 'ines').ref
    workspace.create('deal', { name: 'Lost', stage: 'hp-lost' }, [ada], 'ines')
    const deal = workspace.create('deal', { name: 'Open', stage: 'enq-talking' }, [ada], 'ines').ref
    tellActivities(workspace, [{ record: { visitor: 'v1' }, kind: 'visit', about: '/prices', atMs: null, key: null }])
    const [first = 0] = freeTimes(workspace, page, ada.id)
    const { id } = book(workspace, page, ask(first, { visitor: 'v1' }))
    expect(held(workspace, id)?.owner).toBe('tomasz')
    expect(workspace.world.linked({ object: 'appointment', id }, 'deal').map(({ record }) => record.id)).toEqual([
      deal.id,
    ])
    expect(workspace.store.activities.of(ada).map(({ kind }) => kind)).toEqual(['visit', 'appointment'])
  })

  it('is moved and cancelled by who booked it, which plans anew what goes by its start', () => {
    const { workspace, page, clock } = setting()
    const ruleId = switchOn(
      workspace,
      document({
        object: 'appointment',
        when: [['created', {}]],
        then: [
          [
            'waitForDate',
            {
              until: { at: 'field', field: 'start', side: 'after', amount: { count: 1, unit: 'hours' }, minute: null },
              recheck: true,
            },
            [null, task('Ask how it was')],
            [null],
          ],
        ],
      }),
    )
    const [first = 0, , , later = 0] = freeTimes(workspace, page, null)
    const { id } = book(workspace, page, ask(first))
    const due = () => workspace.store.waits.of({ object: 'appointment', id }).map(({ dueMs }) => dueMs)
    expect(due()).toEqual([first + HOUR_MS])
    expect(freeTimesFor(workspace, page, workspace.store.records.read({ object: 'appointment', id })!)).toContain(first)
    moveBooking(workspace, id, later)
    expect(held(workspace, id)).toMatchObject({ start: later, end: later + HOUR_MS })
    expect(due()).toEqual([later + HOUR_MS])
    expect(refusal(() => moveBooking(workspace, id, later + 60_000))).toMatch(/just been taken/)
    cancelBooking(workspace, id)
    expect(held(workspace, id)?.status).toBe('cancelled')
    expect(refusal(() => cancelBooking(workspace, id))).toMatch(/any more/)
    const again = book(workspace, page, ask(later, { email: 'bea@x.example' }))
    clock.set(later + 1)
    expect(refusal(() => moveBooking(workspace, again.id, later + 24 * HOUR_MS))).toMatch(/any more/)
    expect(ruleId).toBeGreaterThan(0)
  })

  it('offers nothing where the page is closed, and takes nothing', () => {
    const { workspace, page } = setting({ open: false })
    expect(freeTimes(workspace, page, null)).toEqual([])
    const [first = 0] = freeTimes(workspace, { ...page, open: true }, null)
    expect(refusal(() => book(workspace, page, ask(first)))).toMatch(/taken/)
  })
})

describe('a signed link', () => {
  it('is for one record of one kind', () => {
    const { workspace } = larkmoor()
    const link = signed(workspace, 'appointment', 7)
    expect(readSigned(workspace, 'appointment', link)).toBe(7)
    expect(readSigned(workspace, 'contact', link)).toBeNull()
    expect(readSigned(workspace, 'appointment', link.replace('7.', '8.'))).toBeNull()
    expect(readSigned(workspace, 'appointment', '7.short')).toBeNull()
  })
})
