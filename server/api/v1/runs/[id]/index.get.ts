import { runPage } from '../../../../views/journal'

/** One run: what it saw and wrote. Whoever may see the record may see why it is as it is. */
export default defineRoute('GET /runs/:id', ({ workspace, scope, params: { id } }) => {
  const page = runPage(workspace, id, scope)
  if (!page) throw notFound(`run ${id}`)
  visibleRecord({ workspace, scope }, page.ref)
  return page
})
