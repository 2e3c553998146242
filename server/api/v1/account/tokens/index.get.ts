/** One's own keys for the API, without the keys themselves. */
export default defineRoute('GET /account/tokens', ({ workspace, person }) => ({
  tokens: workspace.store.keys.list(person.id).map(({ personId: _personId, ...line }) => line),
}))
