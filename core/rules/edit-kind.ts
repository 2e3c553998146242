import type { Catalogue } from '../fields/catalogue'
import type { RuleDocument } from './document'
import { pasteSteps, stepOf, stepsToText, type StepPlace } from './edit'
import { TRIGGERS, type TriggerName } from './triggers'

/** Edits that take over what is there already: another kind of trigger, a step once more. */

/** Makes a trigger one of another kind; what it had and fits there stays: the field, the stage, the time of day. */
export function changeTrigger(rule: RuleDocument, id: string, kind: TriggerName, catalogue: Catalogue): RuleDocument {
  const names = { catalogue, object: rule.object }
  return {
    ...rule,
    triggers: rule.triggers.map((one) => {
      if (one.id !== id || one.kind === kind) return one
      const [from, to] = [TRIGGERS[one.kind], TRIGGERS[kind]]
      const own = one.params as Readonly<Record<string, unknown>>
      let params: object = to.start
      for (const key of Object.keys(to.form)) {
        if (!(key in own) || from.form[key]?.widget !== to.form[key]?.widget) continue
        const tried = { ...params, [key]: own[key] }
        const misfit = to.check(tried, names).some(({ param }) => param === key)
        if (!misfit && to.params.safeParse(tried).success) params = tried
      }
      return { ...one, kind, params }
    }),
  }
}

/** The same step once more, behind it, with what stands inside it; `null` when it has gone. */
export function duplicateStep(
  rule: RuleDocument,
  id: string,
): { readonly rule: RuleDocument; readonly id: string } | null {
  const placed = stepOf(rule, id)
  if (!placed) return null
  const place: StepPlace = { branch: placed.branch?.id ?? null, at: placed.at + 1 }
  const pasted = pasteSteps(rule, stepsToText([placed.step]), place)
  const made = pasted.ok ? pasted.value.ids[0] : undefined
  return pasted.ok && made !== undefined ? { rule: pasted.value.rule, id: made } : null
}
