import { figure, nounOf, plural } from '../../language/counts'
import { sameValue, type Value } from '../../language/value'
import { definePreflight, noted, type PreflightContext, type Reviewed } from './finding'
import { goThrough, necessary } from './possible'
import { aboutOf } from '../../signals'
import type { Touch } from '../touch'
import { listening, touchesOf } from './touches'
import type { Group } from '../../conditions/document'
import { fieldWord, sayValue } from '../../fields/say-value'

/** What the triggers of a rule listen to, as texts. */
const listened = (rule: Reviewed, { catalogue }: PreflightContext): ReadonlySet<string> =>
  new Set(
    listening(rule.document, catalogue).flatMap(({ listens }) =>
      listens
        .map(aboutOf)
        .map((about) =>
          'kind' in about ? about.kind : about.exact === undefined ? about.field : `${about.field}=${about.exact}`,
        ),
    ),
  )

/** Whether one change may start both: they listen to the same, or one of them to everything. */
function together(a: ReadonlySet<string>, b: ReadonlySet<string>): boolean {
  const field = (key: string) => key.split('=')[0] ?? key
  const meets = (x: string, y: string) =>
    x === y || (x === 'changed' && y !== 'deleted' && y !== 'created') || (!x.includes('=') && field(y) === x)
  return [...a].some((x) => [...b].some((y) => meets(x, y) || meets(y, x)))
}

const listed = (value: Value | undefined): readonly string[] => (Array.isArray(value) ? value : [])

/** Whether it matters which of two writes comes last. Labels that come and go do not get in each other's way. */
function differ(a: Touch, b: Touch): boolean {
  if (a.value !== undefined && b.value !== undefined) return !sameValue(a.value, b.value)
  if (!a.moves || !b.moves) return true
  const meet = (added: Value, removed: Value): boolean => listed(added).some((one) => listed(removed).includes(one))
  return meet(a.moves.new, b.moves.old) || meet(b.moves.new, a.moves.old)
}

/**
 * Records are asked about so many others at the most; where more rules write one field on one start, the first of them
 * say enough.
 */
const ASKED_MOST = 20

/**
 * Two rules that write one field of the same records with different values: which of them stands hangs on their order.
 */
export const fights = definePreflight({
  kind: 'fights',
  look(rule, context) {
    const { catalogue, moment, data } = context
    const mine = touchesOf(rule.document, catalogue).filter(
      (touch) => touch.object === rule.document.object && touch.field !== 'pipeline',
    )
    const own = listened(rule, context)
    let asked = 0
    return context.rules
      .filter((other) => other.on && other.ruleId !== rule.ruleId && other.document.object === rule.document.object)
      .flatMap((other) => {
        const theirs = touchesOf(other.document, catalogue)
        const found = mine.flatMap((a) =>
          theirs
            .filter((b) => b.object === a.object && b.field === a.field && differ(a, b))
            .map((b) => [a, b] as const),
        )[0]
        if (asked >= ASKED_MOST || !found || !together(own, listened(other, context))) return []
        asked++
        const both: Group = {
          kind: 'group',
          id: 'both',
          mode: 'all',
          items: [rule.document.conditions, other.document.conditions],
        }
        if (
          goThrough(necessary(both, rule.document.object, catalogue), rule.document.object, catalogue, moment)?.ever ===
          false
        )
          return []
        const { count, first } = data.count(rule.document.object, both)
        if (count === 0 || !first) return []
        const [a, b] = found
        const field = catalogue.field(a.object, a.field)
        const to = (value: typeof a.value) =>
          value === undefined ? 'another value' : field ? sayValue(value, field, catalogue) : String(value)
        const later = rule.order > other.order || (rule.order === other.order && rule.ruleId > other.ruleId)
        const some = `${figure(count)} ${nounOf(count, a.object)} (for example “${first.name}”)`
        const meet = `${some} ${plural(count, 'meets', 'meet')}`
        return [
          noted('fights', rule, {
            severity: 'warning',
            part: 'step',
            id: a.step.id,
            param: Object.keys(a.step.params)[0] ?? 'kind',
            others: [other.ruleId],
            about: a.field,
            text: `“${other.document.name}” also sets ${fieldWord(field) ?? a.field}`,
            why: [
              `One change can trigger both, and ${meet} the conditions of both.`,
              `This rule sets ${to(a.value)}, the other (step ${b.label}) sets ${to(b.value)}.`,
              `${later ? 'This' : 'The other'} rule runs later and wins.`,
            ].join(' '),
          }),
        ]
      })
  },
})
