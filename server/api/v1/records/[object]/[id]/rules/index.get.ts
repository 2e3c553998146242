import { rulesFor } from '../../../../../../views/why'

export default defineRoute('GET /records/:object/:id/rules', ({ workspace, scope, params: ref }) => {
  visibleRecord({ workspace, scope }, ref)
  return { rules: rulesFor(workspace, ref) }
})
