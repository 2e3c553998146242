/** How many units of a currency one unit of the workspace's own buys, from a day on. */
export interface Rate {
  /** ISO 4217, in capitals. */
  readonly code: string
  /** Plain date. */
  readonly day: string
  /** More than 0. */
  readonly perOwn: number
}

/** Who delivers the rates of each working day. */
export const RATES_FROM = ['simulated'] as const
export type RatesFrom = (typeof RATES_FROM)[number]

/** Rates by currency and day. A rate holds from its day until the next one. */
export class Rates {
  private readonly days = new Map<string, { readonly days: string[]; readonly rates: number[] }>()

  constructor(
    rates: readonly Rate[],
    /** The workspace's own currency. */
    readonly own: string,
  ) {
    for (const { code, day, perOwn } of [...rates].sort((a, b) => (a.day < b.day ? -1 : 1))) {
      let known = this.days.get(code)
      if (!known) this.days.set(code, (known = { days: [], rates: [] }))
      known.days.push(day)
      known.rates.push(perOwn)
    }
  }

  /** Codes that have a rate on some day, in the order of the alphabet; the own one is not among them. */
  get codes(): readonly string[] {
    return [...this.days.keys()].sort()
  }

  /**
   * Units of a currency for one of the own on a day, or by the newest rate when no day is given; `null` where there is
   * none from that day or before.
   */
  on(code: string, day: string | null = null): number | null {
    if (code === this.own) return 1
    const known = this.days.get(code)
    if (!known) return null
    if (day === null) return known.rates.at(-1) ?? null
    let [from, to] = [0, known.days.length]
    while (from < to) {
      const half = (from + to) >> 1
      if ((known.days[half] ?? '') <= day) from = half + 1
      else to = half
    }
    return known.rates[from - 1] ?? null
  }

  /** An amount in the own currency, to the cent; `null` where there is no rate for it. */
  toOwn(amount: number, code: string, day: string | null = null): number | null {
    const rate = this.on(code, day)
    return rate === null ? null : code === this.own ? amount : cents(amount / rate)
  }

  /** An amount of the own currency in another one, to the cent; `null` where there is no rate for it. */
  fromOwn(amount: number, code: string, day: string | null = null): number | null {
    const rate = this.on(code, day)
    return rate === null ? null : code === this.own ? amount : cents(amount * rate)
  }
}

/**
 * To the cent, the half to the even neighbour, of the number as it is written: 1.005 is one and five thousandths, not
 * what is kept of it in binary. Adding 0 turns a negative zero into the plain one.
 */
export function cents(amount: number): number {
  if (!Number.isFinite(amount)) return amount
  const scaled = amount * 100
  const floor = Math.floor(scaled)
  const rest = Number((scaled - floor).toPrecision(9))
  // Beyond 15 digits nothing is left of the cents.
  if (Math.abs(scaled) > Number.MAX_SAFE_INTEGER) return amount
  const up = rest > 0.5 || (rest === 0.5 && floor % 2 !== 0)
  return (floor + (up ? 1 : 0)) / 100 + 0
}
