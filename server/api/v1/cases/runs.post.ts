export default defineRoute('POST /cases/runs', async ({ body: { rule, document } }) => ({
  cases: [...(await useReader().ask('cases', { ruleId: rule ?? null, document: document ?? null }))],
}))
