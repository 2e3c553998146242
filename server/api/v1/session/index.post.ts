import { Attempts } from '../../../auth/attempts'
import { isPassword } from '../../../auth/password'
import { signIn } from '../../../auth/session'

const attempts = new Attempts()

/** Signs in. Says the same for a wrong password and for an address that nobody has. */
export default defineEntry('POST /session', async ({ event, workspace, body: { email, password } }) => {
  const nowMs = workspace.clock.nowMs()
  const waitMs = attempts.waitMs(email, nowMs)
  if (waitMs > 0) {
    const seconds = Math.ceil(waitMs / 1000)
    setResponseHeader(event, 'retry-after', seconds)
    throw new ProblemError(
      429,
      'Too many attempts',
      `Wait ${seconds < 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`}, then try again.`,
    )
  }
  const person = workspace.catalogue().people.find((one) => one.active && one.email.toLowerCase() === email)
  const account = person ? workspace.store.people.accountOf(person.id) : null
  if (!(await isPassword(password, account?.passwordHash ?? null)) || !person) {
    attempts.failed(email, nowMs)
    throw new ProblemError(401, 'Not signed in', 'Wrong email or password.')
  }
  attempts.succeeded(email)
  await signIn(event, workspace, person.id)
  return { person: person.id }
})
