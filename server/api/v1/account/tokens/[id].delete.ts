/** Revokes one of one's own keys. */
export default defineRoute('DELETE /account/tokens/:id', ({ workspace, person, params: { id } }) => {
  if (!workspace.store.people.revokeToken(person.id, id, workspace.clock.nowMs())) throw notFound(`key ${id}`)
  return { ok: true }
})
