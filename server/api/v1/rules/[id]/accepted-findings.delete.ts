export default defineRoute('DELETE /rules/:id/accepted-findings', ({ workspace, params: { id }, query: { key } }) => {
  if (!workspace.store.rules.takeUp(id, key)) throw notFound('such a finding that was let stand')
  workspace.live.tell({ about: 'rules' })
  return { ok: true } as const
})
