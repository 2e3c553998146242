import { setDialler } from '../../../engine/message-settings'

export default defineRoute('PUT /message-settings/dialler', ({ workspace, body: { dialler } }) => {
  setDialler(workspace, dialler)
  return { ok: true as const }
})
