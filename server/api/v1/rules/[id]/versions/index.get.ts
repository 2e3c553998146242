import { ruleVersions } from '../../../../../views/versions'

export default defineRoute('GET /rules/:id/versions', ({ workspace, params: { id } }) => {
  const rule = workspace.store.rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  return ruleVersions(workspace, rule)
})
