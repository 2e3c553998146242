import { startButtons } from '../../../views/starts'

export default defineRoute('GET /starts/:object', ({ workspace, params: { object } }) => ({
  buttons: startButtons(workspace, object, null),
}))
