export default defineRoute('DELETE /rules/:id/accepted-findings', ({ workspace, params: { id }, query: { key } }) => {
  if (!workspace.store.rules.takeUp(id, key)) throw notFound('this accepted finding')
  workspace.live.tell({ about: 'rules' })
  return { ok: true } as const
})
