export default defineRoute('POST /websites', ({ workspace, body: { host } }) => {
  workspace.store.websites.add(host, workspace.clock.nowMs())
  return { ok: true }
})
