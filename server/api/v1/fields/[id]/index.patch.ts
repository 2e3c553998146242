import { changeField, fieldOf } from '../../../../engine/fields'

export default defineRoute('PATCH /fields/:id', ({ workspace, params: { id }, body }) => {
  const field = fieldOf(workspace, id)
  if (!field) throw notFound(`field ${id}`)
  changeField(workspace, field, body)
  return { ok: true }
})
