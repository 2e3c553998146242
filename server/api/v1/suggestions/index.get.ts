import { suggestions } from '../../../views/habits'

export default defineRoute('GET /suggestions', ({ workspace }) => suggestions(workspace))
