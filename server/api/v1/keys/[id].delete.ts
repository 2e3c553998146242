import { realNow } from '../../../auth/session'

/** Revokes a key, whoever’s it is. */
export default defineRoute('DELETE /keys/:id', ({ workspace, params: { id } }) => {
  if (!workspace.store.keys.revoke(id, realNow())) throw notFound(`key ${id}`)
  workspace.live.tell({ about: 'catalogue' })
  return { ok: true }
})
