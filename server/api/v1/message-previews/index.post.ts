import { previewLetters } from '../../../views/letter-preview'

export default defineRoute('POST /message-previews', ({ workspace, scope, body: { ref, params } }) =>
  previewLetters(workspace, ref, params, scope),
)
