import { makeTemplate } from '../../../engine/templates'

export default defineRoute('POST /templates', ({ workspace, person, body }) => ({
  id: makeTemplate(workspace, body, person.id),
}))
