import { removeSynonymSet } from '../../../engine/synonyms'

export default defineRoute('DELETE /synonyms/:id', ({ workspace, params: { id } }) => {
  if (!workspace.catalogue().synonymSet(id)) throw notFound(`synonym set ${id}`)
  removeSynonymSet(workspace, id)
  return { ok: true }
})
