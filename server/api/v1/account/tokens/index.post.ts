/** Makes a key for the API. This answer is the only place where it can be read. */
export default defineRoute('POST /account/tokens', ({ workspace, person, body: { name } }) => ({
  token: workspace.store.people.createToken(person.id, name, workspace.clock.nowMs()),
}))
