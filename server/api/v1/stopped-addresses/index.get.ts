const PAGE = 200

export default defineRoute('GET /stopped-addresses', ({ workspace, query: { after } }) => {
  const rows = workspace.store.addresses.page(after, PAGE)
  return {
    addresses: rows.map(({ channel, address, because, how, atMs }) => ({ channel, address, because, how, atMs })),
    next: rows.length === PAGE ? (rows.at(-1)?.address ?? null) : null,
  }
})
