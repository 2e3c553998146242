export default defineRoute('DELETE /cases/:id', ({ workspace, params: { id } }) => {
  if (!workspace.store.cases.get(id)) throw notFound(`test case ${id}`)
  workspace.db.atomically(() => workspace.store.cases.remove(id))
  return { ok: true }
})
