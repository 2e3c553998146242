import { changeConnection } from '../../../engine/connections'

export default defineRoute('PATCH /connections/:id', ({ workspace, params: { id }, body }) => {
  if (!workspace.catalogue().connection(id)) throw notFound(`connection ${id}`)
  return changeConnection(workspace, id, body)
})
