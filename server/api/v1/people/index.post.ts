import { hashPassword } from '../../../auth/password'
import { freshPersonId, newPerson } from '../../../engine/set-up'

/** Takes somebody in, with a first password that they change themselves. */
export default defineRoute('POST /people', async ({ workspace, body: { password, ...given } }) => {
  const passwordHash = await hashPassword(password)
  const { people } = workspace.catalogue()
  if (people.some((one) => one.email.toLowerCase() === given.email)) {
    throw new ProblemError(422, 'Refused', 'Nothing was written.', [
      { path: 'email', text: 'belongs to somebody already' },
    ])
  }
  const id = freshPersonId(
    given.name,
    people.map((one) => one.id),
  )
  workspace.store.people.add(newPerson({ id, ...given }), passwordHash)
  workspace.tellCatalogue()
  return { id }
})
