import { sizeOf, addJob } from '../../../../engine/rule-jobs'
import { answersTo, buttonOf } from '../../../../engine/start-by-hand'
import type { RuleJobOrder } from '../../../../store/rule-jobs'

/** Starts a rule by its button for all records that match, in the background. */
export default defineRoute('POST /rules/:id/starts', ({ workspace, person, scope, params: { id }, body: { trigger, filter, words, answers } }) => {
  const rule = workspace.activeRules().find((one) => one.ruleId === id)
  const object = rule?.document.object
  const button = object && buttonOf(workspace, id, trigger, object)
  if (!object || !button) throw notFound(`such a button of rule ${id}`)
  const named = words.trim() === '' ? [] : [{ kind: 'condition' as const, id: 'words', field: 'name', op: 'contains' as const, not: false, params: { value: words.trim() } }]
  const order: RuleJobOrder = {
    what: 'hand', object, triggerId: trigger, answers: answersTo(workspace, button, answers, object), owners: scope === null ? null : [...scope],
    filter: { kind: 'group', id: 'selection', mode: 'all', items: [fitting(filter, object), ...named] },
  }
  const job = addJob(workspace, id, order, person.id)
  workspace.db.afterwards(() => useBulk().job(job))
  return { job, total: sizeOf(workspace, id, order) }
})
