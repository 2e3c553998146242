import { addJob } from '../../../../engine/rule-jobs'
import { chosenOrder } from '../../../../engine/standing'

/** Runs a rule for records that somebody chose, whatever its triggers are. */
export default defineRoute(
  'POST /rules/:id/existing',
  ({ workspace, person, params: { id }, body: { filter, words } }) => {
    const rule = workspace.activeRules().find((one) => one.ruleId === id)
    if (!workspace.store.rules.get(id)) throw notFound(`rule ${id}`)
    if (!rule) throw new ProblemError({ code: 'ruleIsOff' })
    const { object } = rule.document
    const order = chosenOrder(object, listed(fitting(filter, object), words))
    const job = addJob(workspace, id, order, person.id)
    workspace.db.afterwards(() => useBulk().job(job))
    return { job, total: workspace.store.ruleJobs.get(job)?.total ?? 0 }
  },
)
