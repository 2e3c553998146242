/** One's own keys for the API, without the keys themselves. */
export default defineRoute('GET /account/tokens', ({ workspace, person }) => ({
  tokens: workspace.store.people.tokensOf(person.id),
}))
