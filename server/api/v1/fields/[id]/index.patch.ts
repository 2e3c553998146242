import { compareBy } from '../../../../engine/synonyms'
import { changeField, fieldOf } from '../../../../engine/fields'

export default defineRoute('PATCH /fields/:id', ({ workspace, params: { id }, body }) => {
  const field = fieldOf(workspace, id)
  if (!field) throw notFound(`field ${id}`)
  const { synonyms, ...rest } = body
  workspace.db.atomically(() => {
    changeField(workspace, field, rest)
    if (synonyms !== undefined)
      compareBy(workspace, { ...field, ...(rest.label === undefined ? {} : { label: rest.label }) }, synonyms)
  })
  return { ok: true }
})
