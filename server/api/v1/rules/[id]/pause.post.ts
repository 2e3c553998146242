import { addJob } from '../../../../engine/rule-jobs'

/** Lets a paused rule go on; what was kept meanwhile is done in the background, or dropped. */
export default defineRoute('POST /rules/:id/pause', ({ workspace, person, params: { id }, body: { act } }) => {
  const { rules, ruleJobs } = workspace.store
  const rule = rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  if (!rule.paused) throw new ProblemError({ code: 'ruleNotPaused' })
  if (act === 'drop') ruleJobs.drop(id, null)
  workspace.goOn(id)
  if (ruleJobs.heldCount(id) === 0) return { job: null }
  const job = addJob(workspace, id, { what: 'held' }, person.id)
  workspace.db.afterwards(() => useBulk().job(job))
  return { job }
})
