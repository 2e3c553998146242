import { ruleLines } from '../../../views/rule-list'

export default defineRoute({ route: 'GET /rules' }, ({ workspace }) => ({ rules: ruleLines(workspace) }))
