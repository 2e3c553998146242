import { hashPassword, isPassword } from '../../../auth/password'
import { signIn } from '../../../auth/session'

/** Changes one's own password; signs out everywhere else. */
export default defineRoute('PUT /account/password', async ({ event, workspace, person, body: { current, next } }) => {
  const { people } = workspace.store
  if (workspace.catalogue().workspace.demo)
    throw new ProblemError(403, 'Not allowed', 'Passwords can’t be changed in a demo.')
  if (!(await isPassword(current, people.accountOf(person.id)?.passwordHash ?? null))) {
    throw new ProblemError(422, 'Not saved', 'is not your password', [
      { path: 'current', text: 'The current password is wrong.' },
    ])
  }
  people.setPassword(person.id, await hashPassword(next))
  await signIn(event, workspace, person.id)
  return { ok: true }
})
