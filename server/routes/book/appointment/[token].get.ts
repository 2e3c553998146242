import { calendarText } from '../../../../core/formats/calendar'
import { eventOf } from '../../../engine/calendar'
import { bookedBy, showBooked } from '../../../utils/booking'

/** What was booked; with `.ics` behind it, as a calendar file. */
export default defineFrontDoor(null, (_, event) => {
  const record = bookedBy(event)
  if (!record || !(getRouterParam(event, 'token') ?? '').endsWith('.ics')) return showBooked(event)
  const workspace = useWorkspace()
  setResponseHeaders(event, {
    'content-type': 'text/calendar; charset=utf-8',
    'content-disposition': 'attachment; filename="appointment.ics"',
  })
  return calendarText(workspace.catalogue().workspace.name, [eventOf(workspace, record)], workspace.clock.nowMs())
})
