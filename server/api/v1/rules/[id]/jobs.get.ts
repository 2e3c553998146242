export default defineRoute('GET /rules/:id/jobs', ({ workspace, params: { id } }) => {
  const { rules, ruleJobs } = workspace.store
  const rule = rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  return {
    jobs: ruleJobs.ofRule(id).map(({ id: job, order, state, done, total, left, personId, createdAt, endedAt }) => ({
      id: job,
      what: order.what,
      state,
      done,
      total,
      left: [...left],
      person: workspace.catalogue().person(personId)?.name ?? personId,
      createdAt,
      endedAt,
    })),
    paused: rule.paused && { ...rule.paused, messages: rule.paused.messages ?? null, held: ruleJobs.heldCount(id) },
  }
})
