export default defineRoute('GET /segments', async ({ scope, query: { object } }) => ({
  segments: await useReader().ask('segmentCounts', { object, scope }),
}))
