/** Signs out in one browser. */
export default defineRoute('DELETE /account/sessions/:id', ({ workspace, person, params: { id } }) => {
  if (!workspace.store.sessions.end(person.id, id)) throw notFound(`session ${id}`)
  // Streams that are open look with the next message whether they may go on, so there is one.
  workspace.live.tell({ about: 'catalogue' })
  return { ok: true }
})
