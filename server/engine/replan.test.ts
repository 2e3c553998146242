import { describe, expect, it } from 'vitest'
import { daysBefore, document, enters, task, type StepLine } from '../../core/testing/rules'
import { instantOf } from '../../core/time/dates'
import { larkmoor, NOW_MS, switchOn } from '../testing/workspace'
import { planClock, workClock } from './clockwork'
import { setHours, type GivenHours } from './hours'
import { movesBy, replanWaits } from './replan'
import type { Workspace } from './workspace'

const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }
const waits = (workspace: Workspace) => workspace.store.waits.list({ limit: 50 }).map((wait) => wait.dueMs)
const hours = (workspace: Workspace, change: Partial<GivenHours>): GivenHours => {
  const { zone, workdays, opensAt, closesAt, holidays, teams } = workspace.catalogue().workspace
  return { zone, workdays, opensAt, closesAt, holidays, ...(teams ? { teams } : {}), ...change }
}
/** A rule that waits, and one deal in it. */
function waiting(workspace: Workspace, ...steps: StepLine[]): void {
  switchOn(workspace, document({ when: [enters('hp-quoted')], then: [...steps, task('Then')] }, 'Slow'))
  const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa' }, [], 'ines')
  workspace.change(ref, { stage: 'hp-quoted' }, 'ines')
}
const lisbon = (date: string, hour: number) => instantOf(date, hour, 0, 'Europe/Lisbon')
const tokyo = (date: string, hour: number) => instantOf(date, hour, 0, 'Asia/Tokyo')

describe('what was planned by local time', () => {
  it('is counted anew from where it began, in another zone, and told before', async () => {
    const { workspace } = larkmoor()
    waiting(workspace, [
      'wait',
      { until: { at: 'after', amount: { count: 3, unit: 'days' }, minute: 540 }, recheck: true },
    ])
    expect(waits(workspace)).toEqual([lisbon('2026-11-27', 9)])
    const next = hours(workspace, { zone: 'Asia/Tokyo' })
    expect(movesBy(workspace, next)).toMatchObject({
      waitsTotal: 1,
      waits: [
        {
          ruleName: 'Slow',
          recordName: 'Room',
          fromMs: lisbon('2026-11-27', 9),
          toMs: tokyo('2026-11-27', 9),
        },
      ],
    })
    // Asking writes nothing.
    expect(waits(workspace)).toEqual([lisbon('2026-11-27', 9)])
    setHours(workspace, next)
    expect(await replanWaits(workspace, control)).toBe(1)
    expect(waits(workspace)).toEqual([tokyo('2026-11-27', 9)])
    // There and back is where it was.
    setHours(workspace, hours(workspace, { zone: 'Europe/Lisbon' }))
    await replanWaits(workspace, control)
    expect(waits(workspace)).toEqual([lisbon('2026-11-27', 9)])
    expect(await replanWaits(workspace, control)).toBe(0)
  })

  it('goes round a new holiday, and the limit of a wait with two ends does as well', async () => {
    const { workspace } = larkmoor()
    waiting(workspace, [
      'waitFor',
      { field: 'units', how: 'filled', to: null, most: { count: 3, unit: 'workdays' }, recheck: true },
    ])
    const [before] = waits(workspace)
    const next = hours(workspace, { holidays: [{ date: '2026-11-26', name: 'Fair' }] })
    expect(movesBy(workspace, next).waitsTotal).toBe(1)
    setHours(workspace, next)
    await replanWaits(workspace, control)
    // Tuesday and three working days are Friday; with Thursday off it is Monday.
    expect(new Date(before ?? 0).getUTCDay()).toBe(5)
    expect(new Date(waits(workspace)[0] ?? 0).getUTCDay()).toBe(1)
  })

  it('keeps what somebody set by hand, and what has come already', async () => {
    const { workspace, clock } = larkmoor()
    waiting(workspace, [
      'wait',
      { until: { at: 'after', amount: { count: 1, unit: 'days' }, minute: 540 }, recheck: true },
    ])
    const [id] = workspace.store.waits.list({ limit: 1 }).map((one) => one.id)
    workspace.store.waits.setDue(id ?? 0, lisbon('2026-12-24', 9), { by: 'ines', reason: 'later' } as never)
    setHours(workspace, hours(workspace, { zone: 'Asia/Tokyo' }))
    expect(await replanWaits(workspace, control)).toBe(0)
    expect(waits(workspace)).toEqual([lisbon('2026-12-24', 9)])

    const other = larkmoor()
    waiting(other.workspace, [
      'wait',
      { until: { at: 'after', amount: { count: 1, unit: 'days' }, minute: 600 }, recheck: true },
    ])
    other.clock.set(lisbon('2026-11-25', 9))
    // At 10:00 in Auckland it is long past: the run goes on at once, and is not told as missed.
    setHours(other.workspace, hours(other.workspace, { zone: 'Pacific/Auckland' }))
    await replanWaits(other.workspace, control)
    expect(waits(other.workspace)).toEqual([lisbon('2026-11-25', 9)])
    await workClock(other.workspace, control)
    expect(other.workspace.store.runs.list({ limit: 5 }).map((run) => run.state)).toEqual(['done'])
    expect(clock.nowMs()).toBe(NOW_MS)
  })

  it('is, for a rule by the clock, its next moment', () => {
    const { workspace } = larkmoor()
    switchOn(
      workspace,
      document(
        {
          when: [daysBefore(3)],
          then: [task('Near')],
        },
        'Near',
      ),
    )
    workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa', closeDate: '2026-12-10' }, [], 'ines')
    planClock(workspace)
    const next = hours(workspace, { zone: 'Asia/Tokyo' })
    expect(movesBy(workspace, next).rules).toEqual([
      {
        ruleName: 'Near',
        fromMs: instantOf('2026-12-07', 8, 30, 'Europe/Lisbon'),
        toMs: instantOf('2026-12-07', 8, 30, 'Asia/Tokyo'),
      },
    ])
    setHours(workspace, next)
    planClock(workspace)
    expect(workspace.store.waits.timers().map((timer) => timer.dueMs)).toEqual([
      instantOf('2026-12-07', 8, 30, 'Asia/Tokyo'),
    ])
  })

  it('is, for a reminder, the same time of day, and the opening of the office where it was that', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring', { remind: 'onDay' })] }, 'Reminds'))
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa' }, [], 'ines')
    workspace.change(ref, { stage: 'hp-quoted' }, 'ines')
    const at = () => workspace.store.tasks.reminders(0).map((one) => one.dueMs)
    const [before = 0] = at()
    const next = hours(workspace, { zone: 'America/New_York' })
    expect(movesBy(workspace, next).reminders).toBe(1)
    // The office opens half an hour later: the reminder of the morning does as well.
    const later = { ...next, zone: 'Europe/Lisbon', opensAt: 570 }
    expect(movesBy(workspace, later).reminders).toBe(1)
    setHours(workspace, next)
    expect(at()).toEqual([before + 5 * 3_600_000])
    setHours(workspace, { ...next, opensAt: 570 })
    expect(at()).toEqual([before + 5.5 * 3_600_000])
  })
})
