import { isUnpublished, problemOf } from '../../../../views/rule-list'

export default defineRoute('GET /rules/:id', ({ workspace, params: { id } }) => {
  const rule = workspace.store.rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  const pulse = workspace.store.runs.pulses(0).get(id)
  return {
    id,
    state: rule.state,
    draft: rule.draft,
    draftRev: rule.draftRev,
    version: rule.version?.number ?? null,
    unpublished: isUnpublished(rule),
    unreadable: problemOf(rule),
    draftUnreadable: rule.draftProblem !== null,
    changedBy: rule.changedBy,
    changedAt: rule.changedAt,
    runs: pulse?.runs ?? 0,
    lastAt: pulse?.lastAt ?? null,
    waiting: workspace.store.waits.countOf(id),
    cases: workspace.store.cases.list(id).length,
  }
})
