export default defineRoute({ act: 'read' }, ({ workspace }) => ({ imports: workspace.store.imports.list() }))
