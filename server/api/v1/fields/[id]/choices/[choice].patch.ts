import { changeChoice, fieldOf } from '../../../../../engine/fields'

export default defineRoute('PATCH /fields/:id/choices/:choice', ({ workspace, params: { id, choice }, body }) => {
  const field = fieldOf(workspace, id)
  if (!field?.choices.some((one) => one.id === choice)) throw notFound(`choice “${choice}” of field ${id}`)
  changeChoice(workspace, field, choice, body)
  return { ok: true }
})
