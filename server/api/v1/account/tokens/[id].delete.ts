import { realNow } from '../../../../auth/session'

/** Revokes one of one's own keys. */
export default defineRoute('DELETE /account/tokens/:id', ({ workspace, person, params: { id } }) => {
  if (!workspace.store.keys.revoke(id, realNow(), person.id)) throw notFound(`key ${id}`)
  workspace.live.tell({ about: 'catalogue' })
  return { ok: true }
})
