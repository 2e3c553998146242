import { shownTo } from '../../../../engine/seen'
import { endedQuietly } from '../../../../../core/engine/world'

/** Changes fields of a record; rules that it starts have run when this answers. */
export default defineRoute(
  'PATCH /records/:object/:id',
  ({ event, workspace, person, scope, params: ref, body: { values } }) => {
    const before = visibleRecord({ workspace, scope }, ref)
    refuseOutdated(event, before)
    const { event: changed, reports } = workspace.change(ref, values, person.id)
    const after = workspace.store.records.read(ref) ?? before
    setTag(event, after.version)
    return {
      changed: changed !== null,
      runs: reports.filter((report) => !endedQuietly(report.stop)).length,
      version: after.version,
      values: shownTo(workspace, scope)(after).values,
    }
  },
)
