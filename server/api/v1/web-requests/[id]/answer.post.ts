import { repliedLater } from '../../../../engine/web-replies'

/** What the simulated receiver sends later; a real one has an address of its own for it. */
export default defineRoute('POST /web-requests/:id/answer', ({ workspace, params: { id }, body: { body } }) => {
  const row = workspace.store.connections.requestOf(id)
  if (!row || workspace.catalogue().connection(row.connectionId)?.address !== '') throw notFound(`web request ${id}`)
  if (repliedLater(workspace, id, body) !== 'taken') throw new ProblemError({ code: 'noAnswerAwaited' })
  return { ok: true as const }
})
