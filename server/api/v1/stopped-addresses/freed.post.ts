export default defineRoute('POST /stopped-addresses/freed', ({ workspace, body: { channel, address } }) => {
  if (!workspace.db.inTurn(() => workspace.store.addresses.free(channel, address)))
    throw notFound(`stopped address ${address}`)
  return { ok: true }
})
