import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { numbers } from '../testing/numbers'
import { atLeast } from './chance'
import { habitName, type Habit, type History, type Moment } from './habit'
import { HabitSearch, isBeyond, roundest, USUAL_SEARCH } from './search'

const DAY = 86_400_000
const NOW = 180 * DAY

interface Planted {
  readonly after: string
  readonly then: string
  readonly share: number
  readonly withinMs: number
}

const FIELDS: readonly (readonly [string, number])[] = [
  ['stage', 6],
  ['kind', 3],
  ['sector', 7],
  ['owner', 6],
  ['tier', 3],
]

/** Records to which much happens by chance, and habits beside it; the truth of each habit is counted along. */
function histories(seed: number, records: number, habits: readonly Planted[]) {
  const next = numbers(seed)
  const truth = new Map(habits.map((habit) => [habit, { of: 0, followed: 0 }]))
  const all: History[] = []
  for (let id = 1; id <= records; id++) {
    const moments: Moment[] = []
    let atMs = next() * 140 * DAY
    const many = 2 + Math.floor(next() * 8)
    for (let i = 0; i < many; i++) {
      const [field, values] = FIELDS[Math.floor(next() * FIELDS.length)] ?? ['stage', 6]
      const items = [`${field}=${Math.floor(next() * values)}`]
      const amount = Math.floor(next() * 100_000)
      moments.push({ atMs, items, numbers: i === 0 ? [['amount', amount]] : [], byHand: next() < 0.7 })
      atMs += next() ** 3 * 20 * DAY
    }
    for (const habit of habits) {
      const first = moments.find(({ items }) => items.includes(habit.after))
      if (!first || first.atMs + 8 * DAY > NOW) continue
      const counts = truth.get(habit)
      if (!counts) continue
      counts.of++
      if (next() > habit.share) continue
      counts.followed++
      moments.push({ atMs: first.atMs + 1 + next() * habit.withinMs, items: [habit.then], numbers: [], byHand: true })
    }
    all.push({ id, moments: moments.sort((a, b) => a.atMs - b.atMs) })
  }
  return { all, truth }
}

/** The same moments at other records: whatever hung together does no more. */
function shuffled(seed: number, all: readonly History[]): readonly History[] {
  const next = numbers(seed)
  const moments = all.flatMap((one) => one.moments)
  for (let i = moments.length - 1; i > 0; i--) {
    const j = Math.floor(next() * (i + 1))
    const [a, b] = [moments[i], moments[j]]
    if (a && b) [moments[i], moments[j]] = [b, a]
  }
  let at = 0
  return all.map(({ id, moments: own }) => ({
    id,
    // The times of the record with what happened elsewhere.
    moments: own.map(({ atMs }) => ({ ...(moments[at++] as Moment), atMs })),
  }))
}
function search(all: Iterable<History>): readonly Habit[] {
  const one = new HabitSearch({ ...USUAL_SEARCH, nowMs: NOW })
  for (const history of all) one.add(history)
  return one.found()
}

const HABITS: readonly Planted[] = [
  { after: 'stage=2', then: 'labels+call', share: 0.9, withinMs: 2 * DAY },
  { after: 'sector=3', then: 'route=north', share: 0.95, withinMs: DAY },
  { after: 'kind=1', then: 'priority=high', share: 0.85, withinMs: 5 * DAY },
]

describe('the search for habits', () => {
  it('finds nine in ten of those that were planted with enough support', () => {
    let [planted, found] = [0, 0]
    for (let seed = 1; seed <= 40; seed++) {
      const { all, truth } = histories(seed, 60 + seed * 6, HABITS)
      const names = new Set(search(all).map(habitName))
      for (const [habit, { of, followed }] of truth) {
        if (followed < 10 || followed / of < 0.8) continue
        planted++
        if (names.has(`${habit.after} → ${habit.then}`)) found++
      }
    }
    expect(planted).toBeGreaterThan(80)
    expect(found / planted).toBeGreaterThanOrEqual(0.9)
  })

  it('finds something in at most one of twenty histories in which there is nothing', () => {
    let wrong = 0
    const tries = 60
    for (let seed = 1; seed <= tries; seed++) {
      const { all } = histories(seed, 250, HABITS)
      if (search(shuffled(seed + 1000, all)).length > 0) wrong++
    }
    expect(wrong / tries).toBeLessThanOrEqual(0.05)
  })

  it('tells how often, within which span, and on which records', () => {
    const { all, truth } = histories(7, 300, HABITS.slice(1, 2))
    const [habit] = search(all)
    const counts = [...truth.values()][0]
    expect(habit).toMatchObject({ after: 'sector=3', then: 'route=north', withinMs: DAY, ...counts })
    expect(habit?.on.length).toBeGreaterThan(5)
    for (const id of habit?.not ?? []) {
      const moments = all.find((one) => one.id === id)?.moments ?? []
      expect(moments.some(({ items }) => items.includes('route=north'))).toBe(false)
    }
  })

  it('finds the line beyond which a number leads to something', () => {
    const next = numbers(3)
    const { all } = histories(3, 200, [])
    const labelled = all.map(({ id, moments }) => {
      const [first] = moments
      const amount = first?.numbers[0]?.[1] ?? 0
      return first && amount > 40_000 && next() < 0.96
        ? {
            id,
            moments: [
              ...moments,
              { atMs: first.atMs + 1 + next() * DAY, items: ['labels+large'], numbers: [], byHand: true },
            ].sort((a, b) => a.atMs - b.atMs),
          }
        : { id, moments }
    })
    const habit = search(labelled).find(({ then }) => then === 'labels+large')
    if (!habit || !isBeyond(habit.after)) throw new Error('no line')
    expect(habit.after.field).toBe('amount')
    expect(Math.abs(habit.after.above - 40_000)).toBeLessThanOrEqual(2_500)
  })

  it('takes nothing for a habit that no person does, nor a stage behind a stage', () => {
    const always = Array.from({ length: 60 }, (_, id) => ({
      id,
      moments: [
        { atMs: id * DAY, items: ['stage=1'], numbers: [], byHand: true },
        { atMs: id * DAY + 60_000, items: ['stage=2'], numbers: [], byHand: true },
        { atMs: id * DAY + 120_000, items: ['labels+x'], numbers: [], byHand: false },
      ],
    }))
    expect(search(always)).toEqual([])
  })
})

describe('the chance of so many', () => {
  it('is that of the binomial distribution', () => {
    expect(atLeast(0, 10, 0.3)).toBe(1)
    expect(atLeast(10, 10, 0.5)).toBeCloseTo(0.5 ** 10, 12)
    expect(atLeast(8, 10, 0.5)).toBeCloseTo(56 / 1024, 10)
    expect(atLeast(3, 5, 0)).toBe(0)
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 40 }),
        fc.double({ min: 0.02, max: 0.98, noNaN: true }),
        (a, b, p) => {
          const [k, n] = [Math.min(a, b), Math.max(a, b)]
          let exact = 0
          for (let i = k; i <= n; i++) {
            let term = p ** i * (1 - p) ** (n - i)
            for (let j = 0; j < i; j++) term *= (n - j) / (j + 1)
            exact += term
          }
          expect(atLeast(k, n, p)).toBeCloseTo(Math.min(1, exact), 8)
        },
      ),
    )
  })
})

describe('the roundest number between two', () => {
  it.each([
    [38_211, 41_900, 40_000],
    [39_950, 40_050, 40_000],
    [12, 13, 12],
    [0.21, 0.31, 0.3],
    [99, 1200, 1000],
  ])('%f and %f is %f', (from, below, expected) => {
    expect(roundest(from, below)).toBe(expected)
  })
})
