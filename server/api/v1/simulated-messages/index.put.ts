export default defineRoute('PUT /simulated-messages', ({ workspace, body: { share } }) => {
  workspace.db.inTurn(() => workspace.store.catalogue.setSimulatedShare(share))
  workspace.live.tell({ about: 'sent' })
  return { ok: true as const }
})
