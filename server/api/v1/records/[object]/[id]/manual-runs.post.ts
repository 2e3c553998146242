import { answersTo, buttonOf, startByHand } from '../../../../../engine/start-by-hand'

/** Starts a rule for a record by its button; it has run when this answers. */
export default defineRoute(
  'POST /records/:object/:id/manual-runs',
  ({ workspace, person, scope, params: ref, body: { rule, trigger, answers } }) => {
    visibleRecord({ workspace, scope }, ref)
    const button = buttonOf(workspace, rule, trigger, ref.object)
    if (!button) throw notFound(`this button of rule ${rule}`)
    const { report, text } = startByHand(
      workspace,
      { object: ref.object, id: ref.id },
      { ruleId: rule, triggerId: trigger, answers: answersTo(workspace, button, answers, ref.object) },
      person.id,
      scope,
    )
    return { run: report?.runId ?? null, state: report?.state ?? null, text }
  },
)
