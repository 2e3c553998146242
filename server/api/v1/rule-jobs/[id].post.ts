/** Stops work of a rule after the commit that is under way, or goes on behind what was done. */
export default defineRoute('POST /rule-jobs/:id', ({ workspace, params: { id }, body: { act } }) => {
  const { ruleJobs } = workspace.store
  const job = ruleJobs.get(id)
  if (!job) throw notFound(`job ${id}`)
  if (act === 'stop' && job.state !== 'running') throw new ProblemError({ code: 'jobNotRunning' })
  if (act === 'continue' && job.state !== 'stopped')
    throw new ProblemError({ code: job.state === 'done' ? 'jobDone' : 'jobRunning' })
  const state = act === 'stop' ? 'stopped' : 'running'
  ruleJobs.setState(id, state, null)
  workspace.live.tell({ about: 'jobs', ruleId: job.ruleId, id, state, done: job.done, total: job.total })
  if (act === 'continue') workspace.db.afterwards(() => useBulk().job(id))
  return { state } as const
})
