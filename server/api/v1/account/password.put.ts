import { hashPassword, isPassword } from '../../../auth/password'
import { signIn } from '../../../auth/session'

/** Changes one's own password; signs out everywhere else. */
export default defineRoute('PUT /account/password', async ({ event, workspace, person, body: { current, next } }) => {
  const { people } = workspace.store
  if (workspace.catalogue().workspace.demo)
    throw new ProblemError(403, 'Not allowed', 'Passwords of a demo workspace stay as they are.')
  if (!(await isPassword(current, people.accountOf(person.id)?.passwordHash ?? null))) {
    throw new ProblemError(422, 'Refused', 'Nothing was changed.', [{ path: 'current', text: 'is not your password' }])
  }
  people.setPassword(person.id, await hashPassword(next))
  await signIn(event, workspace, person.id)
  return { ok: true }
})
