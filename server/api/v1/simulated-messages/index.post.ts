import { answerSimulated } from '../../../engine/simulated-messages'

export default defineRoute('POST /simulated-messages', ({ workspace, body }) => ({
  taken: answerSimulated(workspace, body),
}))
