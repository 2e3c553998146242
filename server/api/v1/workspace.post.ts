import { hashPassword } from '../../auth/password'
import { signIn } from '../../auth/session'
import { setUpWorkspace } from '../../engine/set-up'

/** Sets an empty workspace up and signs its first specialist in. Refused once there is one. */
export default defineEntry('POST /workspace', async ({ event, workspace, body: { name, zone, currency, person } }) => {
  const passwordHash = await hashPassword(person.password)
  if (workspace.catalogueOrNull())
    throw new ProblemError(409, 'Already set up', 'This workspace already exists. Sign in.')
  const id = setUpWorkspace(workspace, {
    name,
    zone,
    currency,
    specialist: { name: person.name, email: person.email, passwordHash },
  })
  await signIn(event, workspace, id)
  return { person: id }
})
