import { feedPath } from '../../../../engine/calendar'

export default defineRoute('POST /account/calendar-feed', ({ workspace, person }) => ({
  path: feedPath(workspace.store.booking.newFeed(person.id, workspace.clock.nowMs())),
}))
