export default defineRoute('POST /overview-visits', ({ workspace, person }) => {
  workspace.db.inTurn(() => workspace.store.visits.note(person.id, workspace.clock.nowMs()))
  return { ok: true as const }
})
