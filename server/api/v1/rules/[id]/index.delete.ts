/** Deletes a rule that was put away and has never been on. */
export default defineRoute('DELETE /rules/:id', ({ workspace, params: { id } }) => {
  const rule = workspace.store.rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  if (rule.state !== 'archived') throw new ProblemError({ code: 'archiveFirst' })
  if (rule.version) throw new ProblemError({ code: 'ruleHasRuns' })
  workspace.db.atomically(() => {
    for (const kept of workspace.store.cases.list(id)) workspace.store.cases.remove(kept.id)
    workspace.store.rules.remove(id)
  })
  workspace.rulesChanged()
  return { ok: true as const }
})
