import type { Moment } from '../conditions/operator'
import type { WorkspaceFacts } from '../fields/field'
import { workCalendar } from '../time/calendar'
import { dateAt } from '../time/dates'

/** The moment an instant is in a workspace: its date there and the days it works. */
export const momentAt = (nowMs: number, workspace: WorkspaceFacts): Moment => ({
  nowMs, today: dateAt(nowMs, workspace.zone), zone: workspace.zone, calendar: workCalendar(workspace),
})
