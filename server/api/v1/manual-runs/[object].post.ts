import { addJob, sizeOf } from '../../../engine/rule-jobs'
import { answersTo, buttonOf } from '../../../engine/start-by-hand'
import type { RuleJobOrder } from '../../../store/rule-jobs'

/** Starts a rule by its button for all records that match, in the background. */
export default defineRoute(
  'POST /manual-runs/:object',
  ({ workspace, person, scope, params: { object }, body: { rule, trigger, filter, words, answers } }) => {
    const button = buttonOf(workspace, rule, trigger, object)
    if (!button) throw notFound(`this button of rule ${rule}`)
    const order: RuleJobOrder = {
      what: 'hand',
      object,
      triggerId: trigger,
      answers: answersTo(workspace, button, answers, object),
      owners: scope === null ? null : [...scope],
      filter: listed(fitting(filter, object), words),
    }
    const job = addJob(workspace, rule, order, person.id)
    workspace.db.afterwards(() => useBulk().job(job))
    return { job, total: sizeOf(workspace, rule, order) }
  },
)
