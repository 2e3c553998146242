import { setMailAccount } from '../../../engine/message-settings'

export default defineRoute('PUT /message-settings/mail', ({ workspace, body: { account } }) => {
  setMailAccount(workspace, account)
  return { ok: true }
})
