import { deleteRecord } from '../../../../engine/going'

export default defineRoute('DELETE /records/:object/:id', ({ event, workspace, scope, person, params: ref }) => {
  refuseOutdated(event, visibleRecord({ workspace, scope }, ref))
  return { runs: deleteRecord(workspace, ref, person.id).length }
})
