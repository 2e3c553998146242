import { simulatedCalls } from '../../../views/simulated-calls'

export default defineRoute('GET /simulated-calls', ({ workspace, scope }) => simulatedCalls(workspace, scope))
