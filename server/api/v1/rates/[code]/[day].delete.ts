import { removeRate } from '../../../../engine/rates'

export default defineRoute('DELETE /rates/:code/:day', ({ workspace, person, params: { code, day } }) => {
  if (!removeRate(workspace, code, day, person.id)) throw notFound(`rate for ${code} on ${day}`)
  return { ok: true }
})
