import { endAllOf, signOut } from '../../../auth/session'

/** Signs out everywhere: all sessions end, and all keys. */
export default defineRoute('DELETE /session/all', ({ event, workspace, person }) => {
  endAllOf(workspace, person.id)
  signOut(event, workspace)
  return { state: 'out' }
})
