import { goneRecord } from '../../../../views/gone'

export default defineRoute('GET /deleted-records/:object/:id', ({ workspace, scope, params: ref }) => {
  const gone = goneRecord(workspace, ref, scope)
  if (!gone) throw notFound(`${ref.object} ${ref.id}`)
  return gone
})
