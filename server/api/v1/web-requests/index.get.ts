import { webRequests } from '../../../views/web-requests'

export default defineRoute('GET /web-requests', ({ workspace, scope, query: { cursor, limit, connection } }) => {
  const { requests, more } = webRequests(workspace, scope, readCursor(cursor), limit, connection)
  return { requests, next: sayCursor(more) }
})
