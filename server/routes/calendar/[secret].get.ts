import { calendarText } from '../../../core/formats/calendar'
import { feedEvents } from '../../engine/calendar'

/** Somebody's appointments for their calendar, by a secret address. */
export default defineFrontDoor(null, (_, event) => {
  const workspace = useWorkspace()
  const secret = (getRouterParam(event, 'secret') ?? '').replace(/\.ics$/, '')
  const personId = workspace.store.booking.whoseFeed(secret)
  const person = personId === null ? null : workspace.catalogue().person(personId)
  if (!person?.active) throw notFound('calendar')
  setResponseHeader(event, 'content-type', 'text/calendar; charset=utf-8')
  return calendarText(
    `${workspace.catalogue().workspace.name}: ${person.name}`,
    feedEvents(workspace, person.id),
    workspace.clock.nowMs(),
  )
})
