import { mergeRecords } from '../../../../../../engine/going'

export default defineRoute(
  'POST /records/:object/:id/merges',
  ({ workspace, scope, person, params: ref, body: { other, take } }) => {
    visibleRecord({ workspace, scope }, ref)
    visibleRecord({ workspace, scope }, { object: ref.object, id: other })
    return { runs: mergeRecords(workspace, ref, other, take, person.id).reports.length }
  },
)
