import { makeField } from '../../../engine/fields'

/** Makes a field; screens everywhere have it at once. */
export default defineRoute('POST /fields', ({ workspace, body }) => makeField(workspace, body))
