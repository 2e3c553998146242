import { setRatesFrom } from '../../../engine/rates'

export default defineRoute('PUT /rates/source', ({ workspace, body: { from } }) => {
  setRatesFrom(workspace, from)
  return { ok: true }
})
