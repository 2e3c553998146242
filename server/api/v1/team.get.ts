import { team } from '../../views/team'

export default defineRoute('GET /team', ({ workspace, scope }) => team(workspace, scope))
