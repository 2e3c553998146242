import { intakesShown } from '../../../views/intakes'

export default defineRoute('GET /intakes', ({ workspace, scope }) => intakesShown(workspace, scope))
