import { synonymSheet } from '../../../views/synonym-sheet'

export default defineRoute('GET /synonyms/:id', ({ workspace, params: { id } }) => {
  const set = workspace.catalogue().synonymSet(id)
  if (!set) throw notFound(`synonym set ${id}`)
  return synonymSheet(workspace, set)
})
