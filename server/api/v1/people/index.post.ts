import { z } from 'zod'
import { ROLES } from '../../../../core/fields/field'
import { hashPassword, PASSWORD_LEAST, PASSWORD_MOST } from '../../../auth/password'
import { freshPersonId, newPerson } from '../../../engine/set-up'

const body = z.strictObject({
  name: z.string().trim().min(1, 'is missing').max(100),
  email: z.email('is not an email address').max(300).transform((email) => email.toLowerCase()),
  role: z.enum(ROLES),
  team: z.string().trim().max(100),
  title: z.string().trim().max(100),
  password: z.string().min(PASSWORD_LEAST, `needs at least ${PASSWORD_LEAST} characters`).max(PASSWORD_MOST),
})

/** Takes somebody in, with a first password that they change themselves. */
export default defineRoute({ route: 'POST /people', body }, async ({ workspace, body: { password, ...given } }) => {
  const passwordHash = await hashPassword(password)
  const { people } = workspace.catalogue()
  if (people.some((one) => one.email.toLowerCase() === given.email)) {
    throw new ProblemError(422, 'Refused', 'Nothing was written.', [{ path: 'email', text: 'belongs to somebody already' }])
  }
  const id = freshPersonId(given.name, people.map((one) => one.id))
  workspace.store.people.add(newPerson({ id, ...given }), passwordHash)
  workspace.tellCatalogue()
  return { id }
})
