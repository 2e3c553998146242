import { blankRule } from '../../../../core/rules/document'

/** Begins a rule as a draft: new rules are off until somebody switches them on. */
export default defineRoute('POST /rules', ({ workspace, person, body: { name, object } }) => {
  const id = workspace.store.rules.create(blankRule(object, name), person.id, workspace.clock.nowMs())
  workspace.rulesChanged()
  return { id }
})
