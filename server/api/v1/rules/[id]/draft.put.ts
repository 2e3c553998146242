/**
 * Saves the draft. Refused when somebody saved another edit since `rev`, so that nobody's work is overwritten unseen.
 */
export default defineRoute('PUT /rules/:id/draft', ({ workspace, person, params: { id }, body: { document, rev } }) => {
  const rule = workspace.store.rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  if (rule.draftProblem !== null)
    throw new ProblemError(
      409,
      'Not saved',
      `The stored draft can’t be read (${rule.draftProblem}). Restore a version first, so that nothing is overwritten unseen.`,
    )
  if (rule.draft.object !== document.object && rule.version)
    throw new ProblemError(422, 'Not saved', 'The record type of a rule can’t change once it has been switched on.')
  const next = workspace.store.rules.saveDraft(id, document, rev, person.id, workspace.clock.nowMs())
  if (next === null) {
    const who = workspace.catalogue().person(rule.changedBy)?.name ?? rule.changedBy
    throw new ProblemError(
      409,
      'Changed by someone else',
      `${who} saved this rule after you opened it. Reload to see the changes.`,
    )
  }
  workspace.live.tell({ about: 'rules' })
  return { rev: next }
})
