import { linksOf } from '../../../../../../views/record'

export default defineRoute('GET /records/:object/:id/links', ({ workspace, scope, params: ref }) => {
  visibleRecord({ workspace, scope }, ref)
  return { links: linksOf(workspace, ref, scope) }
})
