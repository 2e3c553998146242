import { z } from 'zod'
import { hashPassword, PASSWORD_LEAST, PASSWORD_MOST } from '../../auth/password'
import { signIn } from '../../auth/session'
import { setUpWorkspace } from '../../engine/set-up'

const isZone = (zone: string): boolean => Intl.supportedValuesOf('timeZone').includes(zone) || zone === 'UTC'
const body = z.strictObject({
  name: z.string().trim().min(1, 'is missing').max(100),
  zone: z.string().max(60).refine(isZone, 'is not a time zone'),
  currency: z.string().regex(/^[A-Z]{3}$/, 'is not a currency code of three letters'),
  person: z.strictObject({
    name: z.string().trim().min(1, 'is missing').max(100),
    email: z.email('is not an email address').max(300).transform((email) => email.toLowerCase()),
    password: z.string().min(PASSWORD_LEAST, `needs at least ${PASSWORD_LEAST} characters`).max(PASSWORD_MOST),
  }),
})

/** Sets an empty workspace up and signs its first specialist in. Refused once there is one. */
export default defineEntry({ route: 'POST /workspace', body }, async ({ event, workspace, body: { name, zone, currency, person } }) => {
  const passwordHash = await hashPassword(person.password)
  if (workspace.catalogueOrNull()) throw new ProblemError(409, 'Set up already', 'This workspace has been set up; sign in.')
  const id = setUpWorkspace(workspace, { name, zone, currency, specialist: { name: person.name, email: person.email, passwordHash } })
  await signIn(event, workspace, id)
  return { person: id }
})
