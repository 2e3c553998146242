import { changeTemplate } from '../../../../engine/templates'

export default defineRoute('PATCH /templates/:id', ({ workspace, person, params: { id }, body }) => {
  const template = workspace.catalogue().template(id)
  if (!template) throw notFound(`template ${id}`)
  changeTemplate(workspace, template, body, person.id)
  return { ok: true }
})
