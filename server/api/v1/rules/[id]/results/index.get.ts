import { ruleResults } from '../../../../../views/results'

export default defineRoute('GET /rules/:id/results', ({ workspace, params: { id } }) => {
  const rule = workspace.store.rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  return ruleResults(workspace, rule)
})
