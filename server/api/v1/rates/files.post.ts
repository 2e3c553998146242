import { importRates } from '../../../engine/rates'

export default defineRoute('POST /rates/files', ({ workspace, person, body: { text } }) =>
  importRates(workspace, text, person.id),
)
