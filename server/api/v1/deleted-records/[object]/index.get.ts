import { goneRecords } from '../../../../views/gone'

export default defineRoute(
  'GET /deleted-records/:object',
  ({ workspace, scope, params: { object }, query: { cursor, limit } }) => {
    const { rows, next } = goneRecords(workspace, object, scope, readCursor(cursor), limit)
    return { rows, next: sayCursor(next) }
  },
)
