import { whyFor } from '../../../../../../views/why'

/** Whether a rule ran for a record, and if not, why. */
export default defineRoute(
  'GET /records/:object/:id/rules/:rule',
  ({ workspace, scope, params: { rule: ruleId, ...ref } }) => {
    visibleRecord({ workspace, scope }, ref)
    const rule = workspace.store.rules.get(ruleId)
    const why = rule && whyFor(workspace, rule, ref)
    if (!why) throw notFound(`rule ${ruleId}`)
    return why
  },
)
