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
    // Somebody must be able to let people in again.
    const others = catalogue.people.filter((one) => one.id !== id && one.active && one.role === 'specialist')
    if (others.length === 0 && (after.role !== 'specialist' || !after.active))
      throw new ProblemError({ code: 'lastSpecialist', part: after.active ? 'role' : 'active' })
    if ((after.awayFrom === null) !== (after.awayTo === null)) throw new ProblemError({ code: 'awayHalf' })
    if (after.awayFrom !== null && after.awayTo !== null && after.awayTo < after.awayFrom)
      throw new ProblemError({ code: 'awayBackwards' })
    if (after.deputyId !== null && (after.deputyId === id || !catalogue.person(after.deputyId)))
      throw new ProblemError({ code: 'noDeputy' })
    if (passwordHash !== null && catalogue.workspace.demo) throw new ProblemError({ code: 'noPasswordsInDemo' })
    workspace.db.atomically(() => {
      workspace.store.people.update(id, change)
      if (passwordHash !== null) workspace.store.people.setPassword(id, passwordHash)
      if (passwordHash !== null || !after.active || after.role !== person.role) endAllOf(workspace, id)
    })
    workspace.tellCatalogue()
    return { ok: true }
  },
)
