import { sayItem } from '../../conditions/compile'
import { placedConditions } from '../../conditions/document'
import { removePart } from '../edit'
import { TRIGGERS } from '../triggers'
import { allOf, goThrough, necessary } from './possible'
import { definePreflight, noted, type Noted, type PreflightContext, type Reviewed } from './finding'
import { oneOf } from '../../records/kinds'

/** Conditions that no record can meet, alone, together, or with what starts the rule. */
export const neverTrue = definePreflight({
  kind: 'neverTrue',
  look(rule, context) {
    const {
      document: { conditions, object, triggers },
    } = rule
    const { catalogue, moment } = context
    const must = necessary(conditions, object, catalogue)
    if (must.items.length === 0) return []
    if (goThrough(must, object, catalogue, moment)?.ever === false) return [conflict(rule, context)]
    return triggers.flatMap((trigger) => {
      const after = TRIGGERS[trigger.kind].after(trigger.params)
      if (Object.keys(after).length === 0 || goThrough(must, object, catalogue, moment, after)?.ever !== false)
        return []
      return [
        noted('neverTrue', rule, {
          severity: 'error',
          part: 'trigger',
          id: trigger.id,
          param: Object.keys(TRIGGERS[trigger.kind].form)[0] ?? 'kind',
          text: 'Trigger and conditions contradict each other',
          why: `Right after this trigger the ${oneOf(object)} can’t meet the conditions, so the rule would never run.`,
          fix:
            triggers.length > 1
              ? { say: 'Remove this trigger', rule: removePart(rule.document, { part: 'trigger', id: trigger.id }) }
              : null,
        }),
      ]
    })
  },
})

/** Names the two conditions that exclude each other, or the one that excludes everything. */
function conflict(rule: Reviewed, { catalogue, moment }: PreflightContext): Noted {
  const {
    document: { conditions, object },
  } = rule
  const own = placedConditions(necessary(conditions, object, catalogue), object).map(({ condition }) => condition)
  const impossible = (...some: typeof own) => goThrough(allOf(...some), object, catalogue, moment)?.ever === false
  const words = (one: (typeof own)[number]) => `“${sayItem(one, object, catalogue)}”`
  const alone = conditions.mode === 'all' ? own.find((one) => impossible(one)) : undefined
  const pair =
    conditions.mode === 'all' && !alone
      ? own.flatMap((a, i) => own.slice(i + 1).map((b) => [a, b] as const)).find(([a, b]) => impossible(a, b))
      : undefined
  const culprit = alone ?? pair?.[1] ?? own.at(-1)
  const id = culprit?.id ?? conditions.id
  return noted('neverTrue', rule, {
    severity: 'error',
    part: 'condition',
    id,
    param: 'op',
    text: alone
      ? 'This condition is never true'
      : pair
        ? `Never true together with ${words(pair[0])}`
        : 'These conditions are never true together',
    why: pair
      ? `No ${oneOf(object)} can meet both ${words(pair[0])} and ${words(pair[1])}, so the rule would never run.`
      : `No ${oneOf(object)} can meet ${alone ? 'it' : 'them'}, so the rule would never run.`,
    fix: culprit
      ? { say: `Remove ${words(culprit)}`, rule: removePart(rule.document, { part: 'condition', id }) }
      : null,
  })
}
