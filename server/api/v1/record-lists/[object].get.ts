import type { ListPage } from '../../../engine/record-list'

/**
 * One page of records, made into text by the thread that read it: a large page would otherwise be taken apart and put
 * together again by the thread that serves everybody.
 */
export default defineRoute(
  'GET /record-lists/:object',
  async ({ event, scope, params: { object }, query: { filter, words, sort, down, offset, limit } }) => {
    const text = await useReader().ask('ledgerText', {
      object,
      scope,
      filter: readFilter(filter, object),
      words,
      sort,
      down: down === 'true',
      offset,
      limit,
    })
    setResponseHeader(event, 'content-type', 'application/json')
    // The type of a route is that of what it says, whoever wrote it down.
    return text as unknown as ListPage
  },
)
