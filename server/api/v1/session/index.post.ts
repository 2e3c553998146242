import { z } from 'zod'
import { Attempts } from '../../../auth/attempts'
import { isPassword, PASSWORD_MOST } from '../../../auth/password'
import { signIn } from '../../../auth/session'

const body = z.strictObject({ email: z.string().trim().toLowerCase().max(300), password: z.string().max(PASSWORD_MOST) })

const attempts = new Attempts()

/** Signs in. Says the same for a wrong password and for an address that nobody has. */
export default defineEntry({ route: 'POST /session', body }, async ({ event, workspace, body: { email, password } }) => {
  const nowMs = workspace.clock.nowMs()
  const waitMs = attempts.waitMs(email, nowMs)
  if (waitMs > 0) {
    const seconds = Math.ceil(waitMs / 1000)
    setResponseHeader(event, 'retry-after', seconds)
    throw new ProblemError(429, 'Too many tries', `Wait ${seconds < 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`}, then try again.`)
  }
  const person = workspace.catalogue().people.find((one) => one.active && one.email.toLowerCase() === email)
  const account = person ? workspace.store.people.accountOf(person.id) : null
  if (!(await isPassword(password, account?.passwordHash ?? null)) || !person) {
    attempts.failed(email, nowMs)
    throw new ProblemError(401, 'Not signed in', 'The address or the password is wrong.')
  }
  attempts.succeeded(email)
  await signIn(event, workspace, person.id)
  return { person: person.id }
})
