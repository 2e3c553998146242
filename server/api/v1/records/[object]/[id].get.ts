import { recordPage } from '../../../../views/record'

export default defineRoute('GET /records/:object/:id', ({ event, workspace, scope, params: ref }) => {
  visibleRecord({ workspace, scope }, ref)
  const page = recordPage(workspace, ref, scope)
  if (!page) throw notFound(`${ref.object} ${ref.id}`)
  setTag(event, page.version)
  return page
})
