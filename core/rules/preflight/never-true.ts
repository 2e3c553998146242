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
          severity: 'grave',
          part: 'trigger',
          id: trigger.id,
          param: Object.keys(TRIGGERS[trigger.kind].form)[0] ?? 'kind',
          text: 'what starts it and what it asks for cannot both be',
          why: `Right after this start the ${oneOf(object)} holds what the conditions rule out, so it will never get past them.`,
          fix:
            triggers.length > 1
              ? { say: 'take this start out', rule: removePart(rule.document, { part: 'trigger', id: trigger.id }) }
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
    severity: 'grave',
    part: 'condition',
    id,
    param: 'op',
    text: alone
      ? 'this can never hold'
      : pair
        ? `cannot hold together with ${words(pair[0])}`
        : 'these conditions can never hold together',
    why: pair
      ? `No ${oneOf(object)} meets both ${words(pair[0])} and ${words(pair[1])}: the rule would never do anything.`
      : `No ${oneOf(object)} can meet ${alone ? 'it' : 'them'}, whatever it holds: the rule would never do anything.`,
    fix: culprit
      ? { say: `take ${words(culprit)} out`, rule: removePart(rule.document, { part: 'condition', id }) }
      : null,
  })
}
