import { fieldPast } from '../../../../../../views/why'

/** Who or what set a field, when, and from what. */
export default defineRoute('GET /records/:object/:id/fields/:key', ({ workspace, scope, params: { key, ...ref } }) => {
  visibleRecord({ workspace, scope }, ref)
  const past = fieldPast(workspace, ref, key, scope)
  if (!past) throw notFound(`field ${key}`)
  return past
})
