import { guarded } from '../../../auth/guarded'
import { hashPassword, isPassword } from '../../../auth/password'
import { endAllOf, signIn } from '../../../auth/session'

/** Changes one's own password; ends all other sessions, and keys. */
export default defineRouteBehind(
  'PUT /account/password',
  async ({ event, workspace, person, body: { current, next } }) => {
    if (workspace.catalogue().workspace.demo) throw new ProblemError({ code: 'noPasswordsInDemo' })
    const hash = workspace.store.people.accountOf(person.id)?.passwordHash ?? null
    if (!(await guarded(event, person.email.toLowerCase(), () => isPassword(current, hash))))
      throw new ProblemError({ code: 'passwordWrong' })
    return await hashPassword(next)
  },
  ({ event, workspace, person }, hash) => {
    workspace.db.atomically(() => {
      workspace.store.people.setPassword(person.id, hash)
      endAllOf(workspace, person.id)
    })
    signIn(event, workspace, person.id)
    return { ok: true }
  },
)
