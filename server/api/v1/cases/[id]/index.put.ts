import { rewriteCase } from '../../../../engine/cases'

export default defineRoute('PUT /cases/:id', ({ workspace, person, params: { id }, body: { text } }) => {
  const kept = workspace.store.cases.get(id)
  if (!kept) throw notFound(`test case ${id}`)
  rewriteCase(workspace, kept, text, person.id)
  return { ok: true }
})
