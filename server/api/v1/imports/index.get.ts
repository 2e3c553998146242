export default defineRoute('GET /imports', ({ workspace }) => ({ imports: workspace.store.imports.list() }))
