import { takeCalendar } from '../../../engine/calendar'

export default defineRoute('POST /calendar/files', ({ workspace, person, body: { text } }) =>
  takeCalendar(workspace, text, person.id),
)
