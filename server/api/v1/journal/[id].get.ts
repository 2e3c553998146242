import { runPage } from '../../../views/journal'

export default defineRoute({ act: 'read', params: zIdParam }, ({ workspace, params: { id } }) => {
  const page = runPage(workspace, id)
  if (!page) throw notFound(`run ${id}`)
  return page
})
