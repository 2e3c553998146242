import { removeSegment } from '../../../engine/segments'

export default defineRoute('DELETE /segments/:id', ({ workspace, params: { id } }) => {
  if (!workspace.store.segments.get(id)) throw notFound(`segment ${id}`)
  removeSegment(workspace, id)
  return { ok: true }
})
