import { acceptCase } from '../../../../engine/cases'

export default defineRoute('POST /cases/:id/accept', ({ workspace, person, params: { id } }) => {
  const kept = workspace.store.cases.get(id)
  if (!kept) throw notFound(`test case ${id}`)
  acceptCase(workspace, kept, person.id)
  return { ok: true }
})
