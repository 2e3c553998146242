export default defineRoute('GET /cases', ({ workspace, query: { rule } }) => ({
  cases: workspace.store.cases.list(rule ?? null).map(({ id, name, ruleIds, document, changedBy, changedAt }) => ({
    id,
    name,
    changedBy,
    changedAt,
    start: document.start,
    until: document.until ?? document.start,
    records: document.records.length,
    rules: ruleIds.map((ruleId) => ({
      id: ruleId,
      name: workspace.store.rules.get(ruleId)?.draft.name ?? `rule ${ruleId}`,
    })),
  })),
}))
