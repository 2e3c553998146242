import { setTextGateway } from '../../../engine/message-settings'

export default defineRoute('PUT /message-settings/text', ({ workspace, body: { gateway } }) => {
  setTextGateway(workspace, gateway)
  return { ok: true }
})
