import { hashPassword } from '../../../auth/password'
import { freshPersonId, newPerson } from '../../../engine/set-up'

/** Takes somebody in, with a first password that they change themselves. */
export default defineRouteBehind(
  'POST /people',
  ({ body: { password } }) => hashPassword(password),
  ({ workspace, body: { password: _password, ...given } }, passwordHash) => {
    const { people } = workspace.catalogue()
    if (people.some((one) => one.email.toLowerCase() === given.email)) {
      throw new ProblemError({ code: 'emailInUse' })
    }
    const id = freshPersonId(
      given.name,
      people.map((one) => one.id),
    )
    workspace.store.people.add(newPerson({ id, ...given }), passwordHash)
    workspace.tellCatalogue()
    return { id }
  },
)
