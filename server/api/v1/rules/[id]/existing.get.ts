export default defineRoute('GET /rules/:id/existing', ({ workspace, params: { id }, query: { passedDays } }) => {
  const rule = workspace.store.rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  return useReader().ask('existing', { ruleId: id, document: rule.draft, passedDays })
})
