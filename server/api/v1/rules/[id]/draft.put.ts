/**
 * Saves the draft. Refused when somebody saved another edit since `rev`, so that nobody's work is overwritten unseen.
 */
export default defineRoute('PUT /rules/:id/draft', ({ workspace, person, params: { id }, body: { document, rev } }) => {
  const rule = workspace.store.rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  if (rule.draftProblem !== null) throw new ProblemError({ code: 'draftUnreadable', said: rule.draftProblem })
  if (rule.draft.object !== document.object && rule.version) throw new ProblemError({ code: 'recordTypeFixed' })
  const next = workspace.store.rules.saveDraft(id, document, rev, person.id, workspace.clock.nowMs())
  if (next === null) {
    const who = workspace.catalogue().person(rule.changedBy)?.name ?? rule.changedBy
    throw new ProblemError({ code: 'ruleChanged', who })
  }
  workspace.live.tell({ about: 'rules' })
  return { rev: next }
})
