export default defineRoute('GET /storage/:kind/older', async ({ params: { kind }, query: { days } }) => ({
  count: await useReader().ask('older', { kind, days }),
}))
