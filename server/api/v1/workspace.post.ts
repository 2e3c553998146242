import { guarded } from '../../auth/guarded'
import { hashPassword } from '../../auth/password'
import { signIn } from '../../auth/session'
import { isLocal, isSetUpCode } from '../../auth/set-up-code'
import { setUpWorkspace } from '../../engine/set-up'

/**
 * Sets an empty workspace up and signs its first specialist in: from the machine itself, or with the code that the
 * server showed when it was started. Refused once there is one.
 */
export default defineEntry('POST /workspace', async ({ event, workspace, body }) => {
  const { name, zone, currency, person, code } = body
  const known = () => new ProblemError({ code: 'alreadySetUp' })
  if (workspace.catalogueOrNull()) throw known()
  if (!isLocal(event) && !(await guarded(event, null, () => Promise.resolve(isSetUpCode(code)))))
    throw new ProblemError({ code: 'setUpCodeWrong' })
  const passwordHash = await hashPassword(person.password)
  // Somebody else may have been quicker.
  if (workspace.catalogueOrNull()) throw known()
  const id = setUpWorkspace(workspace, {
    name,
    zone,
    currency,
    specialist: { name: person.name, email: person.email, passwordHash },
  })
  signIn(event, workspace, id)
  return { person: id }
})
