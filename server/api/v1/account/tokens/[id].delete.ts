/** Revokes one of one's own keys. */
export default defineRoute({ route: 'DELETE /account/tokens/:id', params: zIdParam }, ({ workspace, person, params: { id } }) => {
  if (!workspace.store.people.revokeToken(person.id, id, workspace.clock.nowMs())) throw notFound(`key ${id}`)
  return { ok: true }
})
