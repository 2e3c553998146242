/**
 * Figures of a rule: numbers by name, which add up. A name is what is counted, or that within one value of something:
 * `reached`, `reached|owner|rosa`, `reached|days|12`.
 */
export type Figures = Readonly<Record<string, number>>

/** What figures are counted from; permanent, they stand in the database. */
export const PART_KINDS = ['runs', 'measures', 'tasks', 'messages'] as const
export type PartKind = (typeof PART_KINDS)[number]

/** By what figures are told apart. */
export const BREAKDOWNS = ['version', 'owner', 'label', 'branch', 'month', 'template'] as const
export type Breakdown = (typeof BREAKDOWNS)[number]

export const figureName = (what: string, by?: Breakdown | 'days', value: string | number = ''): string =>
  by === undefined ? what : `${what}|${by}|${value}`

/** Adds figures up. */
export function addUp(all: Iterable<Figures>): Figures {
  const sum: Record<string, number> = {}
  for (const figures of all) for (const [name, n] of Object.entries(figures)) sum[name] = (sum[name] ?? 0) + n
  return sum
}

/** Counts by name. */
export class Tally {
  private readonly sum: Record<string, number> = {}

  add(n: number, what: string, by?: Breakdown | 'days', value?: string | number): void {
    if (n === 0) return
    const name = figureName(what, by, value)
    this.sum[name] = (this.sum[name] ?? 0) + n
  }

  figures(): Figures {
    return this.sum
  }
}

/** The values of a breakdown with what was counted of each, in no order. */
export function brokenDown(figures: Figures, by: Breakdown): ReadonlyMap<string, Figures> {
  const found = new Map<string, Record<string, number>>()
  for (const [name, n] of Object.entries(figures)) {
    const [what = '', of, value] = name.split('|')
    if (of !== by || value === undefined) continue
    const one = found.get(value) ?? {}
    one[what] = n
    found.set(value, one)
  }
  return found
}
