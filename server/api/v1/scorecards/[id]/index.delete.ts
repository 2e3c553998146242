import { removeCard } from '../../../../engine/scorecards'

export default defineRoute('DELETE /scorecards/:id', ({ workspace, params: { id } }) => {
  const card = workspace.catalogue().scorecard(id)
  if (!card) throw notFound(`scorecard ${id}`)
  removeCard(workspace, card)
  return { ok: true }
})
