import { changeDerived } from '../../../engine/derived'
import { fieldOf } from '../../../engine/fields'

export default defineRoute('PUT /derived-fields/:id', ({ workspace, person, params: { id }, body }) => {
  const field = fieldOf(workspace, id)
  if (!field?.made) throw notFound(`field ${id} that is calculated`)
  changeDerived(workspace, field, body, person.id)
  return { ok: true }
})
