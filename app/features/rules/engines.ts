import type { RuleDocument } from '#core/rules/document'

/** Fetches what only some rules need to be checked: what reads formulas, what finds the days of a recurrence. */
export async function loadEngines(document: RuleDocument): Promise<void> {
  await Promise.all([
    JSON.stringify(document).includes('"formula"') && import('#core/formulas/formula'),
    document.triggers.some((trigger) => trigger.kind === 'recurring') && import('#core/time/recurrence-days'),
  ])
}
