import { withHours } from '../../../engine/hours'

export default defineRouteAwaiting('POST /hours/moves', async ({ workspace, body }) => {
  // What cannot be is refused here, by its place, and not by another thread.
  withHours(workspace.catalogue(), body)
  return await useReader().ask('moves', body)
})
