import { changeSynonymSet } from '../../../engine/synonyms'

export default defineRoute('PATCH /synonyms/:id', ({ workspace, params: { id }, body }) => {
  if (!workspace.catalogue().synonymSet(id)) throw notFound(`synonym set ${id}`)
  changeSynonymSet(workspace, id, body)
  return { ok: true }
})
