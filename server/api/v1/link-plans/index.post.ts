import { checkOrder } from '../../../engine/link-all'

export default defineRouteAwaiting('POST /link-plans', async ({ workspace, body }) => {
  checkOrder(workspace, body)
  return await useReader().ask('linkPlan', body)
})
