import { ruleLines } from '../../../views/rule-list'

export default defineRoute('GET /rules', ({ workspace }) => ({ rules: ruleLines(workspace) }))
