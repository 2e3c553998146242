import { problemPage } from '../../../views/problems'

export default defineRoute('GET /problems', ({ workspace }) => problemPage(workspace))
