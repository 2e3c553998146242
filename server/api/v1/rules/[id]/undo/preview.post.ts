export default defineRouteAwaiting(
  'POST /rules/:id/undo/preview',
  async ({ workspace, params: { id }, body: { fromMs, toMs } }) => {
    if (!workspace.store.rules.get(id)) throw notFound(`rule ${id}`)
    return { ...(await useReader().ask('undoSurvey', { ruleId: id, fromMs, toMs })) }
  },
)
