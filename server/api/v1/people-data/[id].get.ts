import { everythingOf } from '../../../views/everything'

export default defineRoute('GET /people-data/:id', ({ event, workspace, scope, params: { id } }) => {
  const ref = { object: 'contact', id } as const
  visibleRecord({ workspace, scope }, ref)
  setResponseHeader(event, 'content-disposition', `attachment; filename="contact-${id}.json"`)
  return everythingOf(workspace, ref)
})
