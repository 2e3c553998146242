import { fieldOf } from '../../../../engine/fields'
import { planRetype, retype } from '../../../../engine/retype'

/** Gives a field another type, or tells what that would come to. */
export default defineRoute('POST /fields/:id/type', ({ workspace, params: { id }, body: { type, try: tries } }) => {
  const field = fieldOf(workspace, id)
  if (!field || !workspace.catalogue().field(field.object, field.key)) throw notFound(`field ${id}`)
  return tries ? planRetype(workspace, field, type) : retype(workspace, field, type)
})
