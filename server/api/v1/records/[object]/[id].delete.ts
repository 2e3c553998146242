import { deleteRecord } from '../../../../engine/going'

export default defineRoute('DELETE /records/:object/:id', ({ workspace, scope, person, params: ref }) => {
  visibleRecord({ workspace, scope }, ref)
  return { runs: deleteRecord(workspace, ref, person.id).length }
})
