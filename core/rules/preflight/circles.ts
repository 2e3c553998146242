import { listOf } from '../../language/counts'
import type { Catalogue } from '../../fields/catalogue'
import { definePreflight, noted, type PreflightContext, type Reviewed } from './finding'
import { heldAfter, startedBy, touchesOf, type StepTouch } from './touches'
import { oneOf } from '../../records/kinds'
import { fieldWord, sayValue } from '../../fields/say-value'

/** One rule that starts another, by one of its steps. */
interface Edge {
  readonly from: Reviewed
  readonly to: Reviewed
  readonly touch: StepTouch
}

const sayTouch = (touch: StepTouch, catalogue: Catalogue): string => {
  const field = catalogue.field(touch.object, touch.field)
  const word = fieldWord(field) ?? touch.field
  return touch.value === undefined
    ? `changes ${word}`
    : `sets ${word} to ${field ? sayValue(touch.value, field, catalogue) : String(touch.value)}`
}

/** What each rule starts among the others, each edge once. */
function edgesFrom(rule: Reviewed, { catalogue, moment, rules }: PreflightContext): readonly Edge[] {
  const held = heldAfter(rule.document.triggers)
  const touches = touchesOf(rule.document, catalogue)
  return rules
    .filter((one) => one.on || one.ruleId === rule.ruleId)
    .flatMap((to) => {
      const touch = touches.find((one) =>
        startedBy(one, one.object === rule.document.object ? held : {}, to.document, catalogue, moment),
      )
      return touch ? [{ from: rule, to, touch }] : []
    })
}

/** The shortest way from a rule back to itself; circles of more than this many rules are not looked for. */
const LONGEST = 8

function circleOf(
  rule: Reviewed,
  context: PreflightContext,
  edges: (of: Reviewed) => readonly Edge[],
): readonly Edge[] | null {
  let ways: readonly (readonly Edge[])[] = edges(rule).map((edge) => [edge])
  const seen = new Set<number>()
  for (let long = 1; long <= LONGEST; long++) {
    const back = ways.find((way) => way.at(-1)?.to.ruleId === rule.ruleId)
    if (back) return back
    ways = ways.flatMap((way) => {
      const last = way.at(-1)?.to
      if (!last || seen.has(last.ruleId)) return []
      seen.add(last.ruleId)
      return edges(last).map((edge) => [...way, edge])
    })
  }
  return null
}

/** Rules that start one another in a circle, and rules that start themselves. */
export const circles = definePreflight({
  kind: 'circles',
  look(rule, context) {
    const known = new Map<number, readonly Edge[]>()
    const edges = (of: Reviewed): readonly Edge[] => {
      const found = known.get(of.ruleId) ?? edgesFrom(of, context)
      known.set(of.ruleId, found)
      return found
    }
    const circle = circleOf(rule, context, edges)
    const [first] = circle ?? []
    if (!circle || !first) return []
    const { catalogue } = context
    const others = circle.map((edge) => edge.to.ruleId).filter((id) => id !== rule.ruleId)
    const drawn = circle
      .map(
        ({ from, touch, to }) =>
          `“${from.document.name}” ${sayTouch(touch, catalogue)} (step ${touch.label}), which triggers “${to.document.name}”`,
      )
      .join('; ')
    return [
      noted('circles', rule, {
        severity: others.length > 0 ? 'error' : 'info',
        part: 'step',
        id: first.touch.step.id,
        param: Object.keys(first.touch.step.params)[0] ?? 'kind',
        others,
        text:
          others.length > 0
            ? `Loops with ${listOf(others.map((id) => `“${context.rules.find((one) => one.ruleId === id)?.document.name ?? id}”`))}`
            : 'Triggers itself',
        why: `${drawn}. The loop is stopped at the second round for the same ${oneOf(rule.document.object)} and reported.`,
      }),
    ]
  },
})
