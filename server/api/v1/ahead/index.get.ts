export default defineRoute(
  'GET /ahead',
  async ({ workspace, scope, query: { from, to, rule, owner, object, record, limit } }) => {
    const nowMs = workspace.clock.nowMs()
    return useReader().ask('ahead', {
      fromMs: from ?? nowMs,
      toMs: to ?? nowMs + 92 * 86_400_000,
      ruleId: rule,
      ownerId: owner,
      ref: object !== undefined && record !== undefined ? { object, id: record } : undefined,
      limit,
      scope,
    })
  },
)
