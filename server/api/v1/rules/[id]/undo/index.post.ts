import { addJob } from '../../../../../engine/rule-jobs'

/** Takes back everything that a rule did in a period, in the background. */
export default defineRoute('POST /rules/:id/undo', ({ workspace, person, params: { id }, body: { fromMs, toMs } }) => {
  if (!workspace.store.rules.get(id)) throw notFound(`rule ${id}`)
  const job = addJob(workspace, id, { what: 'undo', fromMs, toMs }, person.id)
  workspace.db.afterwards(() => useBulk().job(job))
  return { job }
})
