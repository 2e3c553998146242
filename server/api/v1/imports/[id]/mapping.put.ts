import { zMapping } from '../../../../../core/formats/csv/import'

export default defineRoute({ route: 'PUT /imports/:id/mapping', params: zIdParam, body: zMapping }, ({ workspace, params: { id }, body }) => {
  const row = workspace.store.imports.get(id)
  if (!row) throw notFound(`import ${id}`)
  if (row.state !== 'ready') throw new ProblemError(409, 'Under way already', 'This import has been started; its columns cannot change any more.')
  workspace.store.imports.setMapping(id, body)
  return { ok: true }
})
