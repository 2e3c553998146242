import { checkRule } from '../../../../../core/rules/check'
import { backfillOrder } from '../../../../engine/standing'

/** Begins a forecast of the draft: what it would do in the days to come if it were switched on now. */
export default defineRoute('POST /rules/:id/forecasts', ({ workspace, person, params: { id }, body }) => {
  const rule = workspace.store.rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  const unfinished = checkRule(rule.draft, workspace.catalogue())
  if (unfinished.length > 0)
    throw new ProblemError(
      { code: 'unfinished', to: 'forecast' },
      unfinished.map(({ part, id: where, param, text }) => ({ path: `${part} ${where} ${param}`.trim(), text })),
    )
  const begun = beginRehearsal(person.id, rule.draft.name)
  useRehearsals().rehearse(
    begun.id,
    {
      rules: [{ ruleId: id, document: rule.draft }],
      object: rule.draft.object,
      ids: null,
      filter: null,
      days: body.days,
      back: false,
      script: [],
      forecast: { backfill: body.backfill ? backfillOrder(workspace, rule.draft, body) : null },
    },
    null,
  )
  return { id: begun.id }
})
