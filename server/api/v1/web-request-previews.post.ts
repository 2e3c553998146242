import { previewRequest } from '../../views/web-requests'

export default defineRoute('POST /web-request-previews', ({ workspace, scope, body: { ref, params } }) =>
  previewRequest(workspace, ref, params, scope),
)
