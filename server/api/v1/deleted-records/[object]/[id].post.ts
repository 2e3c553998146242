import { restoreRecord } from '../../../../engine/going'
import { goneRecord } from '../../../../views/gone'

/** Brings it back. */
export default defineRoute('POST /deleted-records/:object/:id', ({ workspace, scope, person, params: ref }) => {
  if (!goneRecord(workspace, ref, scope)) throw notFound(`${ref.object} ${ref.id}`)
  return restoreRecord(workspace, ref, person.id)
})
