import { hashPassword } from '../../../auth/password'
import { endAllOf } from '../../../auth/session'

/** Changes somebody: role, team, away dates, deputy, whether they still work here, or a new first password. */
export default defineRouteBehind(
  'PATCH /people/:id',
  async ({ body: { password } }) => (password === undefined ? null : await hashPassword(password)),
  ({ workspace, params: { id }, body: { password: _password, ...change } }, passwordHash) => {
    const catalogue = workspace.catalogue()
    const person = catalogue.person(id)
    if (!person) throw notFound(`person “${id}”`)
    const after = { ...person, ...change }
    const refuse = (path: string, text: string) => new ProblemError(422, 'Not saved', text, [{ path, text }])
    // Somebody must be able to let people in again.
    const others = catalogue.people.filter((one) => one.id !== id && one.active && one.role === 'specialist')
    if (others.length === 0 && (after.role !== 'specialist' || !after.active))
      throw refuse(after.active ? 'role' : 'active', 'At least one active specialist is needed.')
    if ((after.awayFrom === null) !== (after.awayTo === null))
      throw refuse('awayTo', 'Enter both the first and the last day away.')
    if (after.awayFrom !== null && after.awayTo !== null && after.awayTo < after.awayFrom)
      throw refuse('awayTo', 'The last day away is before the first.')
    if (after.deputyId !== null && (after.deputyId === id || !catalogue.person(after.deputyId)))
      throw refuse('deputyId', 'Choose an active person as deputy.')
    if (passwordHash !== null && catalogue.workspace.demo)
      throw new ProblemError(403, 'Not allowed', 'Passwords can’t be changed in a demo.')
    workspace.db.atomically(() => {
      workspace.store.people.update(id, change)
      if (passwordHash !== null) workspace.store.people.setPassword(id, passwordHash)
      if (passwordHash !== null || !after.active || after.role !== person.role) endAllOf(workspace, id)
    })
    workspace.tellCatalogue()
    return { ok: true }
  },
)
