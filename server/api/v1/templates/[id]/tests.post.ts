import { sendTest } from '../../../../engine/templates'

export default defineRoute('POST /templates/:id/tests', ({ workspace, person, params: { id }, body }) => {
  const template = workspace.catalogue().template(id)
  if (!template) throw notFound(`template ${id}`)
  return { address: sendTest(workspace, template, body, person) }
})
