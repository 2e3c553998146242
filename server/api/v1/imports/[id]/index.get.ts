import { previewImport } from '../../../../engine/import'

export default defineRoute({ route: 'GET /imports/:id', params: zIdParam }, ({ workspace, params: { id } }) => {
  const row = workspace.store.imports.get(id)
  if (!row) throw notFound(`import ${id}`)
  const { content: _content, ...facts } = row
  if (row.state !== 'ready') return { ...facts, preview: null }
  const preview = previewImport(workspace, row)
  // The rows with something to say come first; the screen shows the rest in numbers.
  const weight = { refused: 0, changed: 1, new: 2, same: 3 } as const
  const rows = [...preview.rows].sort((a, b) => weight[a.verdict] - weight[b.verdict] || a.row - b.row).slice(0, 300)
  return { ...facts, preview: { ...preview, rows } }
})
