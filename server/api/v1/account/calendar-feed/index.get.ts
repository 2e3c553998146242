import { feedPath } from '../../../../engine/calendar'

export default defineRoute('GET /account/calendar-feed', ({ workspace, person }) => {
  const secret = workspace.store.booking.feedOf(person.id)
  return { path: secret === null ? null : feedPath(secret) }
})
