/** Sends a request once more, under its id: whoever got it before drops it. */
export default defineRoute('POST /web-requests/:id/again', ({ workspace, params: { id } }) => {
  const row = workspace.store.connections.requestOf(id)
  const parcel = row && workspace.store.outbox.ofRun(row.runId).find(({ key }) => key === row.key)
  if (!row || !parcel) throw notFound(`web request ${id}`)
  if (parcel.state === 'pending') throw new ProblemError({ code: 'requestUnderWay' })
  workspace.store.outbox.revive(parcel.id, workspace.clock.nowMs())
  workspace.db.afterwards(() => workspace.courier.wake())
  return { ok: true as const }
})
