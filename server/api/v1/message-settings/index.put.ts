import { setMessaging } from '../../../engine/message-settings'

export default defineRoute('PUT /message-settings', ({ workspace, body }) => {
  setMessaging(workspace, body)
  return { ok: true }
})
