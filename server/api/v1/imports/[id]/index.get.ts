export default defineRoute('GET /imports/:id', async ({ workspace, params: { id } }) => {
  const row = workspace.store.imports.get(id)
  if (!row) throw notFound(`import ${id}`)
  const { content: _content, apiKey: _key, ...facts } = row
  return {
    ...facts,
    object: row.mapping.object,
    preview: row.state === 'ready' ? await useBulk().ask('preview', id) : null,
  }
})
