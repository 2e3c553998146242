import { startButtons } from '../../../../../views/starts'

export default defineRoute('GET /records/:object/:id/starts', ({ workspace, scope, params: ref }) => ({
  buttons: startButtons(workspace, ref.object, visibleRecord({ workspace, scope }, ref)),
}))
