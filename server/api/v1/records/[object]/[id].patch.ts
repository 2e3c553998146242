import { z } from 'zod'
import { OBJECTS } from '../../../../../core/records/kinds'
import { zValue } from '../../../../../core/rules/values'

const params = z.object({ object: z.enum(OBJECTS), id: z.coerce.number().int().positive() })
const body = z.strictObject({ values: z.record(z.string().max(100), zValue) })

/** Changes fields of a record; rules that it starts have run when this answers. */
export default defineRoute({ route: 'PATCH /records/:object/:id', params, body }, ({ workspace, person, scope, params: ref, body: { values } }) => {
  visibleRecord({ workspace, scope }, ref)
  const { event, reports } = workspace.change(ref, values, person.id)
  return { changed: event !== null, runs: reports.filter((report) => report.stop?.code !== 'conditions').length, values: workspace.store.records.read(ref)?.values ?? {} }
})
