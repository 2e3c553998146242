import { makeDerived } from '../../../engine/derived'

/** Makes a field whose value is worked out; all records follow at once. */
export default defineRoute('POST /derived-fields', ({ workspace, person, body }) =>
  makeDerived(workspace, body, person.id),
)
