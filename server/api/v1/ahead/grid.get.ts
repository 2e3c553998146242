export default defineRoute('GET /ahead/grid', async ({ workspace, scope, query: { days, rule } }) =>
  useReader().ask('aheadGrid', { fromMs: workspace.clock.nowMs(), days, ruleId: rule, scope }),
)
