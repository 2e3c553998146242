import { actingKey } from '../../../engine/acting'
import { checkOrder } from '../../../engine/link-all'

export default defineRouteAwaiting('POST /link-plans/make', async ({ workspace, person, body }) => {
  checkOrder(workspace, body)
  return await useBulk().ask('makeLinks', { by: body, personId: person.id, key: actingKey() })
})
