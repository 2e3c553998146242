export default defineRoute('POST /preflight', async ({ body }) => ({
  findings: await useReader().ask('preflight', body),
}))
