/**
 * Saves the draft. Refused when somebody saved another edit since `rev`, so that nobody's work is overwritten unseen.
 */
export default defineRoute('PUT /rules/:id/draft', ({ workspace, person, params: { id }, body: { document, rev } }) => {
  const rule = workspace.store.rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  if (rule.draft.object !== document.object && rule.version)
    throw new ProblemError(422, 'Refused', 'The kind of record of a rule that has run cannot change.')
  const next = workspace.store.rules.saveDraft(id, document, rev, person.id, workspace.clock.nowMs())
  if (next === null) {
    const who = workspace.catalogue().person(rule.changedBy)?.name ?? rule.changedBy
    throw new ProblemError(
      409,
      'Somebody else saved',
      `${who} has saved another edit of this rule since you opened it.`,
    )
  }
  workspace.live.tell({ about: 'rules' })
  return { rev: next }
})
