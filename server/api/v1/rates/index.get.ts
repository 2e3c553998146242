import { ratesView } from '../../../views/rates'

export default defineRoute('GET /rates', ({ workspace, query: { before } }) => ratesView(workspace, before ?? null))
