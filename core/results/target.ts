import { brokenDown, type Breakdown, type Figures } from './figures'
import { moreNeeded, newcombe, SHARE_LEAST, wilson, type Interval, type Share } from './intervals'
import { count, figure, percent, plural } from '../language/counts'

/** What is told of the target of a rule, from its figures. */

export interface ToldShare extends Share {
  readonly interval: Interval
}

export interface TargetResult {
  /** Records whose time is over, with those that reached the target. */
  readonly done: ToldShare
  /** The same of those left alone; `null` where none are. */
  readonly alone: ToldShare | null
  /** How much more of them reached it than of those left alone; `null` where there is nothing to compare. */
  readonly difference: (Interval & { readonly points: number }) | null
  /** How many more records it takes to tell; `null` where it can be told, or cannot be foreseen. */
  readonly more: number | null
  readonly within: { readonly of: number; readonly reached: number; readonly alone: number }
  /** Met the target before anything was done. */
  readonly already: number
  /** Shares that reached it within so many days, whole ones, from 0 on. */
  readonly curve: readonly { readonly day: number; readonly done: number; readonly alone: number | null }[]
}

const told = (share: Share): ToldShare => ({ ...share, interval: wilson(share) })

export function targetResult(figures: Figures, key: string, days: number): TargetResult {
  const of = (name: string): number => figures[`${key} ${name}`] ?? 0
  const done: Share = { reached: of('reached'), of: of('through') }
  const beside: Share = { reached: of('alone reached'), of: of('alone through') }
  const within = { of: of('within'), reached: of('withinReached'), alone: of('alone within') }
  const compared = beside.of > 0
  const reachedBy = (group: string) => {
    let sum = 0
    return (day: number): number => (sum += of(`${group}reached|days|${day}`))
  }
  const [soFar, aloneSoFar] = [reachedBy(''), reachedBy('alone ')]
  return {
    done: told(done),
    alone: compared || within.alone > 0 ? told(beside) : null,
    difference:
      compared && done.of > 0
        ? { ...newcombe(done, beside), points: done.reached / done.of - beside.reached / beside.of }
        : null,
    more: compared ? moreNeeded(done, beside) : null,
    within,
    already: of('already'),
    curve: Array.from({ length: days + 1 }, (_, day) => ({
      day,
      done: done.of === 0 ? 0 : soFar(day) / done.of,
      alone: compared ? aloneSoFar(day) / beside.of : null,
    })),
  }
}

const points = (share: number): string => Math.abs(share * 100).toFixed(0)

/** What can be said of it, in one or two sentences. */
export function sayTarget({ done, alone, difference, more, within }: TargetResult, days: number): string {
  if (done.of === 0)
    return within.of === 0
      ? 'No record has gone through this rule since its target was set.'
      : [
          `Too early to tell: ${count(days, 'day')} must pass for each record,`,
          `and ${within.of === 1 ? 'one is' : `all ${figure(within.of)} are`} still within that time.`,
        ].join(' ')
  const sure = (from: string, to: string): string => `with 95% confidence ${from} to ${to}`
  const { low, high } = done.interval
  const told = [
    `${figure(done.reached)} of ${figure(done.of)} reached the target`,
    ` (${percent(done.reached / done.of)}, ${sure(percent(low), percent(high))}).`,
  ].join('')
  if (done.of < SHARE_LEAST) return `${told} Too few to tell: about ${figure(SHARE_LEAST - done.of)} more.`
  if (!alone) return `${told} Without records left alone no one can tell how many would have done so anyway.`
  if (!difference) return `${told} No record that was left alone has had its time yet.`
  const others = `${figure(alone.reached)} of ${figure(alone.of)} did (${percent(alone.reached / alone.of)})`
  const compared = `${told} Of those left alone ${others}.`
  const by = `${points(difference.points)} percentage points`
  const [least, most] = [points(difference.low), points(difference.high)]
  if (difference.low > 0) return `${compared} The rule helps: ${by} more, ${sure(least, most)}.`
  if (difference.high < 0) return `${compared} The rule does harm: ${by} fewer, ${sure(most, least)}.`
  return `${compared} Too few to tell whether that is because of the rule${
    more === null ? '.' : `: about ${figure(more)} more ${plural(more, 'record', 'records')}.`
  }`
}

/** One line of a breakdown, as far as the target goes. */
export interface TargetLine {
  readonly value: string
  readonly done: ToldShare
}

/** The target by one thing, those with the most records first. */
export function targetBy(figures: Figures, key: string, by: Breakdown): readonly TargetLine[] {
  return [...brokenDown(figures, by)]
    .flatMap(([value, of]) => {
      const through = of[`${key} through`] ?? 0
      return through === 0 ? [] : [{ value, done: told({ reached: of[`${key} reached`] ?? 0, of: through }) }]
    })
    .sort((a, b) => (by === 'month' ? a.value.localeCompare(b.value) : b.done.of - a.done.of))
}
