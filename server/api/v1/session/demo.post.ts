import { signIn } from '../../../auth/session'

/** Changes to another person of a demo workspace, whose password is no secret. Anywhere else it is refused. */
export default defineEntry('POST /session/demo', ({ event, workspace, body: { personId } }) => {
  const catalogue = workspace.catalogue()
  if (!catalogue.workspace.demo) throw new ProblemError({ code: 'noSwitching' })
  if (!catalogue.person(personId)?.active) throw notFound(`person “${personId}”`)
  signIn(event, workspace, personId)
  return { person: personId }
})
