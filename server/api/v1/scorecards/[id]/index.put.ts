import { changeCard } from '../../../../engine/scorecards'

export default defineRoute('PUT /scorecards/:id', ({ workspace, person, params: { id }, body }) => {
  const card = workspace.catalogue().scorecard(id)
  if (!card) throw notFound(`scorecard ${id}`)
  changeCard(workspace, card, body, person.id)
  return { ok: true }
})
