import type { WorkspaceFacts } from '../fields/field'
import { workCalendar, type WorkCalendar } from '../time/calendar'
import { addDays, dateAt, startOfDate } from '../time/dates'
import type { Moment } from '../conditions/moment'

interface Day {
  readonly calendar: WorkCalendar
  readonly today: string
  readonly fromMs: number
  /** The first moment of the next day. */
  readonly toMs: number
}

/** The day each workspace was asked about last: every change of a day asks for the same one. */
const days = new WeakMap<WorkspaceFacts, Day>()

/** The moment an instant is in a workspace: its date there and the days it works. */
export function momentAt(nowMs: number, workspace: WorkspaceFacts): Moment {
  const { zone } = workspace
  let day = days.get(workspace)
  if (!day || nowMs < day.fromMs || nowMs >= day.toMs) {
    const today = dateAt(nowMs, zone)
    day = {
      calendar: day?.calendar ?? workCalendar(workspace),
      today,
      fromMs: startOfDate(today, zone),
      toMs: startOfDate(addDays(today, 1), zone),
    }
    days.set(workspace, day)
  }
  return { nowMs, today: day.today, zone, calendar: day.calendar }
}
