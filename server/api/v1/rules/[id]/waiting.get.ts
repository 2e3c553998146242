import { underWay } from '../../../../views/under-way'

export default defineRoute('GET /rules/:id/waiting', ({ workspace, scope, params: { id } }) => {
  const rule = workspace.store.rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  return { steps: underWay(workspace, rule, scope) }
})
