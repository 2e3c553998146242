import { checkRule } from '../../../../../core/rules/check'
import { isUnpublished } from '../../../../views/rule-list'

/** Switches a rule on, off, or puts it away. Switching on publishes the draft, and refuses one that is not finished. */
export default defineRoute('POST /rules/:id/state', ({ workspace, person, params: { id }, body: { state, note } }) => {
  const { rules } = workspace.store
  const rule = rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  const findings = state === 'on' ? checkRule(rule.draft, workspace.catalogue()) : []
  if (findings.length > 0) {
    throw new ProblemError(422, 'Not finished', 'The rule cannot be switched on yet.', findings.map((finding) => ({ path: `${finding.part} ${finding.id} ${finding.param}`.trim(), text: finding.text })))
  }
  workspace.db.atomically(() => {
    if (state === 'on' && (rule.version === null || isUnpublished(rule))) rules.publish(id, rule.draft, person.id, workspace.clock.nowMs(), note)
    rules.setState(id, state, person.id, workspace.clock.nowMs())
  })
  workspace.rulesChanged()
  return { state, version: rules.get(id)?.version?.number ?? null }
})
