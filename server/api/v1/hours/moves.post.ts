import { withHours } from '../../../engine/hours'

export default defineRoute('POST /hours/moves', ({ workspace, body }) => {
  // What cannot be is refused here, by its place, and not by another thread.
  withHours(workspace.catalogue(), body)
  return useReader().ask('moves', body)
})
