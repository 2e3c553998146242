/** The keys of everybody, without the keys themselves. */
export default defineRoute('GET /keys', ({ workspace }) => ({ keys: workspace.store.keys.list(null) }))
