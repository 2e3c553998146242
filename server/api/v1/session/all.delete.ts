import { signOut } from '../../../auth/session'

/** Signs out everywhere: every cookie of the person is void from now on. */
export default defineRoute('DELETE /session/all', async ({ event, workspace, person }) => {
  workspace.store.people.endSessions(person.id)
  // Streams that are open look at their cookie with the next message, so there is one.
  workspace.live.tell({ about: 'catalogue' })
  await signOut(event)
  return { state: 'out' }
})
