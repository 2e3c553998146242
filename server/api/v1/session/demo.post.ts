import { z } from 'zod'
import { signIn } from '../../../auth/session'

const body = z.strictObject({ personId: z.string().max(100) })

/** Changes to another person of a demo workspace, whose password is no secret. Anywhere else it is refused. */
export default defineEntry({ route: 'POST /session/demo', body }, async ({ event, workspace, body: { personId } }) => {
  const catalogue = workspace.catalogue()
  if (!catalogue.workspace.demo) throw new ProblemError(403, 'Not allowed', 'Only a demo workspace lets you change to another person.')
  if (!catalogue.person(personId)?.active) throw notFound(`person “${personId}”`)
  await signIn(event, workspace, personId)
  return { person: personId }
})
