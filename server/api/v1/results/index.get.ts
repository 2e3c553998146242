import { allResults } from '../../../views/results'

export default defineRoute('GET /results', ({ workspace }) => ({ rules: allResults(workspace) }))
