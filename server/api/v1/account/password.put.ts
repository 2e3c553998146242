import { z } from 'zod'
import { hashPassword, isPassword, PASSWORD_LEAST, PASSWORD_MOST } from '../../../auth/password'
import { signIn } from '../../../auth/session'

const body = z.strictObject({ current: z.string().max(PASSWORD_MOST), next: z.string().min(PASSWORD_LEAST, `needs at least ${PASSWORD_LEAST} characters`).max(PASSWORD_MOST) })

/** Changes one's own password; signs out everywhere else. */
export default defineRoute({ route: 'PUT /account/password', body }, async ({ event, workspace, person, body: { current, next } }) => {
  const { people } = workspace.store
  if (workspace.catalogue().workspace.demo) throw new ProblemError(403, 'Not allowed', 'Passwords of a demo workspace stay as they are.')
  if (!(await isPassword(current, people.accountOf(person.id)?.passwordHash ?? null))) {
    throw new ProblemError(422, 'Refused', 'Nothing was changed.', [{ path: 'current', text: 'is not your password' }])
  }
  people.setPassword(person.id, await hashPassword(next))
  await signIn(event, workspace, person.id)
  return { ok: true }
})
