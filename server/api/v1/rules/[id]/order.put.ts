export default defineRoute('PUT /rules/:id/order', ({ workspace, params: { id }, body: { order } }) => {
  if (!workspace.store.rules.get(id)) throw notFound(`rule ${id}`)
  workspace.store.rules.setOrder(id, order)
  workspace.rulesChanged()
  return { ok: true } as const
})
