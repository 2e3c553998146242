export default defineRoute('GET /ahead/load', async ({ scope, query: { days } }) => {
  const load = await useRehearsals().load(days)
  return {
    ...load,
    days: [...load.days],
    owners: load.owners
      .filter(({ id }) => scope === null || scope.has(id))
      .map(({ id, counts }) => ({ id, counts: [...counts] })),
  }
})
