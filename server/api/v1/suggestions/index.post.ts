export default defineRoute('POST /suggestions', ({ workspace, body: { act } }) => {
  workspace.db.inTurn(() => workspace.store.habits.ask(act, workspace.clock.nowMs()))
  workspace.live.tell({ about: 'problems' })
  return { ok: true as const }
})
