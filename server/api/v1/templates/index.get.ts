import { templateSheets } from '../../../views/templates'

export default defineRoute('GET /templates', ({ workspace }) => templateSheets(workspace))
