import { simulatedMessages } from '../../../views/simulated-messages'

export default defineRoute('GET /simulated-messages', ({ workspace, scope }) => simulatedMessages(workspace, scope))
