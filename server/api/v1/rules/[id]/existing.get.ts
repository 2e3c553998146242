export default defineRoute('GET /rules/:id/existing', ({ workspace, params: { id } }) => {
  const rule = workspace.store.rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  const { object, conditions } = rule.draft
  return useReader().ask('existing', { ruleId: id, object, filter: conditions })
})
