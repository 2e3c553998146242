import { otherStarts, startButtons } from '../../../views/starts'

export default defineRoute('GET /manual-runs/:object', ({ workspace, params: { object } }) => ({
  buttons: startButtons(workspace, object, null),
  others: otherStarts(workspace, object),
}))
