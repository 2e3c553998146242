import { signOut } from '../../../auth/session'

/** Signs out in this browser. */
export default defineEntry('DELETE /session', ({ event, workspace }) => {
  signOut(event, workspace)
  return { state: 'out' }
})
