export default defineRoute({ route: 'GET /imports/:id', params: zIdParam }, async ({ workspace, params: { id } }) => {
  const row = workspace.store.imports.get(id)
  if (!row) throw notFound(`import ${id}`)
  const { content: _content, ...facts } = row
  return { ...facts, preview: row.state === 'ready' ? await useBulk().preview(id) : null }
})
