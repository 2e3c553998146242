import { recordsAfter } from '../../../../engine/record-list'

/** Records in the order of their ids, so that a page is where it was whatever is added meanwhile. */
export default defineRoute(
  'GET /records/:object',
  ({ workspace, scope, params: { object }, query: { filter, words, cursor, limit } }) => {
    const { rows, next } = recordsAfter(workspace, {
      object,
      scope,
      filter: readFilter(filter, object),
      words,
      after: readCursor(cursor) ?? 0,
      limit,
    })
    return { rows, next: sayCursor(next) }
  },
)
