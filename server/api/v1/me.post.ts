import { z } from 'zod'

const body = z.strictObject({ personId: z.string().max(100) })

/** Changes who acts. In a demo workspace only: elsewhere people sign in. */
export default defineRoute({ act: 'read', body }, ({ workspace, event, body: { personId } }) => {
  if (!workspace.catalogue().workspace.demo) throw new ProblemError(403, 'Not allowed', 'Only a demo workspace lets you change to another person.')
  const person = workspace.catalogue().person(personId)
  if (!person?.active) throw notFound(`person “${personId}”`)
  setCookie(event, PERSON_COOKIE, person.id, { httpOnly: true, sameSite: 'lax', path: '/', maxAge: 30 * 86_400 })
  return { me: person.id }
})
