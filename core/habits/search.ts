import { atLeast } from './chance'
import { fieldOf, type Beyond, type Habit, type History } from './habit'

export interface SearchSetting {
  /** What happened so lately that something may still follow is not counted. */
  readonly nowMs: number
  /** Within which spans something has to follow; the shortest that does is told. */
  readonly spansMs: readonly number[]
  readonly supportLeast: number
  readonly confidenceLeast: number
}

const HOUR_MS = 3_600_000
export const USUAL_SPANS = [HOUR_MS, 24 * HOUR_MS, 48 * HOUR_MS, 7 * 24 * HOUR_MS] as const
export const USUAL_SEARCH: Omit<SearchSetting, 'nowMs'> = {
  spansMs: USUAL_SPANS,
  supportLeast: 10,
  confidenceLeast: 0.75,
}

/** A finding is chance in one of so many searches in which there is nothing to find. */
const CHANCE_MOST = 0.01
/** It follows so many times as often as it does after anything else. */
const LIFT_LEAST = 1.5
/** So many records are named on each side. */
const NAMED = 20
/** More different items than that are no habits of people but names and texts. */
const ITEMS_MOST = 4000

interface Pair {
  readonly followed: number[]
  readonly on: number[]
  readonly not: number[]
}

interface NumberSet {
  readonly record: number
  readonly value: number
  /** Which items followed within the longest span, with how long it took. */
  readonly then: ReadonlyMap<number, number>
}

/**
 * Goes through histories one by one, and in the end says what people do again and again. Keeps counts, no histories.
 */
export class HabitSearch {
  private readonly ids = new Map<string, number>()
  private readonly names: string[] = []
  /** By first item: records that had it, long enough ago for each span. */
  private readonly had: number[][] = []
  private readonly pairs = new Map<number, Map<number, Pair>>()
  /** How many moments there were, and behind how many of them each item followed, by span. */
  private readonly moments: number[]
  private readonly behind: number[][] = []
  private readonly numbers = new Map<string, NumberSet[]>()
  private readonly longest: number

  constructor(private readonly setting: SearchSetting) {
    this.moments = setting.spansMs.map(() => 0)
    this.longest = Math.max(...setting.spansMs)
  }

  private idOf(item: string): number | null {
    const known = this.ids.get(item)
    if (known !== undefined) return known
    if (this.names.length >= ITEMS_MOST) return null
    const id = this.names.length
    this.ids.set(item, id)
    this.names.push(item)
    this.had.push(this.setting.spansMs.map(() => 0))
    this.behind.push(this.setting.spansMs.map(() => 0))
    return id
  }

  add({ id: record, moments }: History): void {
    const { nowMs, spansMs } = this.setting
    const firsts = new Set<number>()
    const numbersSeen = new Set<string>()
    for (const [i, moment] of moments.entries()) {
      // What people do behind it, once each, with how long it took.
      const then = new Map<number, number>()
      for (let j = i + 1; j < moments.length; j++) {
        const later = moments[j]
        if (!later || later.atMs - moment.atMs > this.longest) break
        if (!later.byHand || later.atMs === moment.atMs) continue
        for (const item of later.items) {
          const id = this.idOf(item)
          if (id !== null && !then.has(id)) then.set(id, later.atMs - moment.atMs)
        }
      }
      spansMs.forEach((span, s) => {
        if (moment.atMs + span > nowMs) return
        this.moments[s] = (this.moments[s] ?? 0) + 1
        for (const [id, took] of then) {
          const behind = this.behind[id]
          if (behind && took <= span) behind[s] = (behind[s] ?? 0) + 1
        }
      })
      for (const item of moment.items) {
        const id = this.idOf(item)
        // A record counts once for an item: what it goes through again and again would count as very many.
        if (id === null || firsts.has(id)) continue
        firsts.add(id)
        this.count(id, record, moment.atMs, then)
      }
      for (const [field, value] of moment.numbers) {
        if (numbersSeen.has(field) || moment.atMs + this.longest > nowMs) continue
        numbersSeen.add(field)
        const all = this.numbers.get(field) ?? []
        this.numbers.set(field, all)
        all.push({ record, value, then })
      }
    }
  }

  private count(id: number, record: number, atMs: number, then: ReadonlyMap<number, number>): void {
    const { nowMs, spansMs } = this.setting
    const had = this.had[id]
    if (!had) return
    spansMs.forEach((span, s) => {
      if (atMs + span <= nowMs) had[s] = (had[s] ?? 0) + 1
    })
    const pairs = this.pairs.get(id) ?? new Map<number, Pair>()
    this.pairs.set(id, pairs)
    for (const [other, took] of then) {
      if (other === id) continue
      const pair = pairs.get(other) ?? { followed: spansMs.map(() => 0), on: [], not: [] }
      pairs.set(other, pair)
      spansMs.forEach((span, s) => {
        if (took <= span && atMs + span <= nowMs) pair.followed[s] = (pair.followed[s] ?? 0) + 1
      })
      if (pair.on.length < NAMED) pair.on.push(record)
    }
    if (atMs + this.longest <= nowMs)
      for (const [other, pair] of pairs) if (!then.has(other) && pair.not.length < NAMED) pair.not.push(record)
  }

  /** What was found, the surest first. */
  found(): readonly Habit[] {
    const pairs = [...this.pairs].flatMap(([first, others]) =>
      [...others].flatMap(([then, pair]) => (this.asks(first, then) ? [{ first, then, pair }] : [])),
    )
    const tests = Math.max(1, pairs.length * this.setting.spansMs.length + this.numbers.size * this.names.length)
    const habits: Habit[] = []
    for (const { first, then, pair } of pairs) {
      const habit = this.test(this.had[first] ?? [], this.names[first] ?? '', then, pair, tests)
      if (habit) habits.push(habit)
    }
    for (const [field, all] of this.numbers) habits.push(...this.beyond(field, all, tests))
    return withoutEchoes(habits).sort((a, b) => b.followed / b.of - a.followed / a.of || b.followed - a.followed)
  }

  /** A stage behind a stage is the business itself, and no habit beside it. */
  private asks(first: number, then: number): boolean {
    return fieldOf(this.names[first] ?? '') !== fieldOf(this.names[then] ?? '')
  }

  private chanceOf(then: number, s: number, of: number, followed: number): number {
    // How often it follows anything else.
    const others = Math.max(1, (this.moments[s] ?? 0) - of)
    const behind = Math.max(0, (this.behind[then]?.[s] ?? 0) - followed)
    return Math.min(0.95, (behind + 1) / (others + 2))
  }

  private test(
    had: readonly number[],
    after: string,
    then: number,
    { followed: all, on, not }: Pair,
    tests: number,
  ): Habit | null {
    const { spansMs, supportLeast, confidenceLeast } = this.setting
    for (const [s, withinMs] of spansMs.entries()) {
      const [of, followed] = [had[s] ?? 0, all[s] ?? 0]
      if (followed < supportLeast || followed / of < confidenceLeast) continue
      const chance = this.chanceOf(then, s, of, followed)
      const lift = followed / of / chance
      if (lift < LIFT_LEAST || atLeast(followed, of, chance) * tests > CHANCE_MOST) continue
      return { after, then: this.names[then] ?? '', withinMs, of, followed, lift, on, not }
    }
    return null
  }

  /** Lines of a number beyond which something follows, and below which it hardly does. */
  private beyond(field: string, all: readonly NumberSet[], tests: number): readonly Habit[] {
    const { spansMs, supportLeast, confidenceLeast } = this.setting
    const sorted = [...all].sort((a, b) => a.value - b.value)
    const thens = new Map<number, number>()
    for (const { then } of sorted) for (const id of then.keys()) thens.set(id, (thens.get(id) ?? 0) + 1)
    const habits: Habit[] = []
    for (const [then, count] of thens) {
      if (count < supportLeast || fieldOf(this.names[then] ?? '') === field) continue
      // The cut with the most on the right side of it on both sides.
      let [left, best, at] = [0, -1, -1]
      for (const [i, one] of sorted.entries()) {
        const right = count - left + (i - left)
        if (right > best && sorted[i - 1]?.value !== one.value) [best, at] = [right, i]
        if (one.then.has(then)) left++
      }
      const above = sorted.slice(at)
      const below = sorted.slice(0, at)
      const some = above.filter((one) => one.then.has(then))
      const odd = below.filter((one) => one.then.has(then)).length
      if (at < 1 || below.length < supportLeast || some.length < supportLeast) continue
      const of = above.length
      const chance = Math.max(odd + 1, 1) / (below.length + 2)
      if (some.length / of < confidenceLeast || odd / below.length > 0.2) continue
      // Every cut of every number is a try of its own.
      if (
        atLeast(some.length, of, Math.min(0.95, Math.max(chance, count / sorted.length / 2))) * tests * sorted.length >
        CHANCE_MOST
      )
        continue
      const took = some.map((one) => one.then.get(then) ?? 0)
      const withinMs = spansMs.find((span) => took.filter((ms) => ms <= span).length / of >= confidenceLeast)
      if (withinMs === undefined) continue
      habits.push({
        after: { field, above: roundest(below.at(-1)?.value ?? 0, above[0]?.value ?? 0) },
        then: this.names[then] ?? '',
        withinMs,
        of,
        followed: some.length,
        lift: some.length / of / chance,
        on: some.slice(0, NAMED).map(({ record }) => record),
        not: above.flatMap((one) => (one.then.has(then) ? [] : [one.record])).slice(0, NAMED),
      })
    }
    return habits
  }
}

/** The roundest number that is at least one and less than another one. */
export function roundest(from: number, below: number): number {
  for (let step = 10 ** Math.ceil(Math.log10(Math.max(1, Math.abs(below)))); step >= 1e-6; step /= 10)
    for (const part of [1, 0.5]) {
      const at = Math.ceil(from / (step * part)) * step * part
      if (at >= from && at < below) return Number(at.toPrecision(12))
    }
  return from
}

/**
 * Of several that lead to the same, the surest stays: a line of a number beside what always comes with it is an echo.
 */
function withoutEchoes(habits: readonly Habit[]): Habit[] {
  const kept: Habit[] = []
  const surest = [...habits].sort((a, b) => b.lift * (b.followed / b.of) - a.lift * (a.followed / a.of))
  for (const habit of surest) {
    const same = (other: Habit): boolean =>
      other.then === habit.then &&
      habit.on.length > 0 &&
      habit.on.filter((id) => other.on.includes(id)).length >= habit.on.length * 0.6
    if (!kept.some(same)) kept.push(habit)
  }
  return kept
}

export const isBeyond = (after: Habit['after']): after is Beyond => typeof after !== 'string'
