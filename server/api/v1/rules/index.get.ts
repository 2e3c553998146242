import { ruleLines } from '../../../views/rule-list'

export default defineRoute({ act: 'read' }, ({ workspace }) => ({ rules: ruleLines(workspace) }))
