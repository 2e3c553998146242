import { makeMissing } from '../../../../engine/import-missing'

/** Makes what a file names and the workspace does not have, all together, before it is run. */
export default defineRoute('POST /imports/:id/missing', ({ workspace, params: { id }, body }) => {
  const row = workspace.store.imports.get(id)
  if (!row) throw notFound(`import ${id}`)
  if (row.state !== 'ready') throw new ProblemError({ code: 'nothingAdded' })
  makeMissing(workspace, row, body)
  return { ok: true }
})
