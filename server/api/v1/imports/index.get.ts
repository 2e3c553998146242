export default defineRoute({ route: 'GET /imports' }, ({ workspace }) => ({ imports: workspace.store.imports.list() }))
