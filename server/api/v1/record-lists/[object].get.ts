export default defineRoute(
  'GET /record-lists/:object',
  ({ scope, params: { object }, query: { filter, words, sort, down, offset, limit } }) =>
    useReader().ask('ledger', {
      object,
      scope,
      filter: readFilter(filter, object),
      words,
      sort,
      down: down === 'true',
      offset,
      limit,
    }),
)
