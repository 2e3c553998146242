import { conversationOf } from '../../../../../views/messages'

export default defineRoute(
  'GET /records/:object/:id/messages',
  ({ workspace, scope, params, query }) =>
    conversationOf(workspace, params, query.before ?? Number.MAX_SAFE_INTEGER, scope) ?? refuse(params),
)

function refuse({ object, id }: { readonly object: string; readonly id: number }): never {
  throw notFound(`${object} ${id}`)
}
