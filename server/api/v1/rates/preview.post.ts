import { planRates } from '../../../engine/rates'

export default defineRoute('POST /rates/preview', ({ workspace, body: { text } }) => planRates(workspace, text).plan)
