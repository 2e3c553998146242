export default defineRoute('DELETE /websites/:host', ({ workspace, params: { host } }) => {
  if (!workspace.store.websites.remove(host)) throw notFound(`website ${host}`)
  return { ok: true }
})
