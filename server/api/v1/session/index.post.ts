import { guarded } from '../../../auth/guarded'
import { isPassword } from '../../../auth/password'
import { signIn } from '../../../auth/session'

/** Signs in. Says the same for a wrong password and for an address that nobody has. */
export default defineEntry('POST /session', async ({ event, workspace, body: { email, password } }) => {
  const person = workspace.catalogue().people.find((one) => one.active && one.email.toLowerCase() === email)
  const hash = person ? (workspace.store.people.accountOf(person.id)?.passwordHash ?? null) : null
  if (!(await guarded(event, email, () => isPassword(password, hash))) || !person)
    throw new ProblemError({ code: 'signInWrong' })
  signIn(event, workspace, person.id)
  return { person: person.id }
})
