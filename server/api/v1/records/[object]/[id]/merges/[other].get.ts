import { previewMerge } from '../../../../../../views/gone'

export default defineRoute(
  'GET /records/:object/:id/merges/:other',
  ({ workspace, scope, params: { object, id, other } }) =>
    previewMerge(
      workspace,
      visibleRecord({ workspace, scope }, { object, id }),
      visibleRecord({ workspace, scope }, { object, id: other }),
      scope,
    ),
)
