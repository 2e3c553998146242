export default defineRoute('GET /preflight', async () => ({ findings: await useReader().ask('preflightAll', null) }))
