import { signOut } from '../../../auth/session'

/** Signs out in this browser. */
export default defineEntry('DELETE /session', async ({ event }) => {
  await signOut(event)
  return { state: 'out' }
})
