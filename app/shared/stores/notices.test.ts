import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { MOST, SHOWN_MS, useNotices } from './notices'

let notices: ReturnType<typeof useNotices>
beforeEach(() => {
  vi.useFakeTimers()
  setActivePinia(createPinia())
  notices = useNotices()
})
// Tests share their globals: clocks of one must not stand still in the next.
afterEach(() => vi.useRealTimers())

const titles = (): readonly string[] => notices.list.map(({ title }) => title)

describe('what just happened', () => {
  it('is told for a while and goes', () => {
    notices.tell({ title: 'Task done' })
    vi.advanceTimersByTime(SHOWN_MS - 1)
    expect(titles()).toEqual(['Task done'])
    vi.advanceTimersByTime(1)
    expect(titles()).toEqual([])
  })
  it('stays until it is closed, where something went wrong', () => {
    const id = notices.tell({ title: 'Not saved', tone: 'wrong' })
    vi.advanceTimersByTime(100 * SHOWN_MS)
    expect(titles()).toEqual(['Not saved'])
    notices.drop(id)
    expect(titles()).toEqual([])
  })
  it('does not go while somebody is at it, and has its whole time afterwards', () => {
    const id = notices.tell({ title: 'Task done', undo: () => undefined })
    vi.advanceTimersByTime(SHOWN_MS - 10)
    notices.hold(id, true)
    vi.advanceTimersByTime(5 * SHOWN_MS)
    expect(titles()).toEqual(['Task done'])
    notices.hold(id, false)
    vi.advanceTimersByTime(SHOWN_MS - 1)
    expect(titles()).toEqual(['Task done'])
    vi.advanceTimersByTime(1)
    expect(titles()).toEqual([])
  })
  it('makes room for the latest, and what went wrong gives way last', () => {
    notices.tell({ title: 'Not saved', tone: 'wrong' })
    const held = notices.tell({ title: 'Held' })
    notices.hold(held, true)
    for (let i = 1; i <= MOST; i++) notices.tell({ title: `Task ${i}` })
    expect(titles()).toEqual(['Not saved', 'Held', `Task ${MOST - 1}`, `Task ${MOST}`])
  })
  it('never holds more than there is room for, even of what went wrong', () => {
    for (let i = 1; i <= MOST + 2; i++) notices.tell({ title: `Not saved ${i}`, tone: 'wrong' })
    expect(titles()).toEqual(Array.from({ length: MOST }, (_, i) => `Not saved ${i + 3}`))
  })
  it('is undone once, and gone with that', () => {
    const undo = vi.fn()
    notices.tell({ title: 'Task done', undo })
    const [notice] = notices.list
    if (!notice) throw new Error('nothing is told')
    notices.undo(notice)
    expect(undo).toHaveBeenCalledOnce()
    expect(titles()).toEqual([])
    vi.advanceTimersByTime(2 * SHOWN_MS)
    expect(undo).toHaveBeenCalledOnce()
  })
  it('that told of a failure goes once the same succeeds, and a second failure takes the place of the first', () => {
    notices.tell({ title: 'Not saved', text: 'Closes too early.', tone: 'wrong', of: 'PUT /hours' })
    notices.tell({ title: 'Not saved', tone: 'wrong', of: 'PUT /people' })
    notices.tell({ title: 'Not saved', text: 'Closes too late.', tone: 'wrong', of: 'PUT /hours' })
    expect(notices.list.map(({ of, text }) => [of, text])).toEqual([
      ['PUT /people', ''],
      ['PUT /hours', 'Closes too late.'],
    ])
    notices.settle('PUT /hours')
    expect(notices.list.map(({ of }) => of)).toEqual(['PUT /people'])
  })
  it('that is gone is not held any more', () => {
    notices.hold(99, true)
    expect(titles()).toEqual([])
  })
})
