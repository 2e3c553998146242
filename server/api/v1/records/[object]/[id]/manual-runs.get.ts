import { startButtons } from '../../../../../views/starts'

export default defineRoute('GET /records/:object/:id/manual-runs', ({ workspace, scope, params: ref }) => ({
  buttons: startButtons(workspace, ref.object, visibleRecord({ workspace, scope }, ref), scope),
}))
