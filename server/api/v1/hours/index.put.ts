import { setHours } from '../../../engine/hours'

export default defineRoute('PUT /hours', ({ workspace, body }) => {
  setHours(workspace, body)
  return { ok: true }
})
