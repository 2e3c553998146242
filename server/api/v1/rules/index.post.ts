import { z } from 'zod'
import { OBJECTS } from '../../../../core/records/kinds'
import { blankRule } from '../../../../core/rules/document'

const body = z.strictObject({ name: z.string().trim().min(1).max(200), object: z.enum(OBJECTS) })

/** Begins a rule as a draft: new rules are off until somebody switches them on. */
export default defineRoute({ route: 'POST /rules', body }, ({ workspace, person, body: { name, object } }) => {
  const id = workspace.store.rules.create(blankRule(object, name), person.id, workspace.clock.nowMs())
  workspace.rulesChanged()
  return { id }
})
