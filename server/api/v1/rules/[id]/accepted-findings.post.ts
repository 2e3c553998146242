export default defineRoute(
  'POST /rules/:id/accepted-findings',
  ({ workspace, person, params: { id }, body: { key, reason } }) => {
    if (!workspace.store.rules.get(id)) throw notFound(`rule ${id}`)
    workspace.store.rules.accept({ ruleId: id, key, reason, personId: person.id, atMs: workspace.clock.nowMs() })
    workspace.live.tell({ about: 'rules' })
    return { ok: true } as const
  },
)
