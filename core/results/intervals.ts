/**
 * Intervals for shares. The score interval for one share: E. B. Wilson, "Probable inference, the law of succession, and
 * statistical inference", JASA 22 (1927). For the difference of two independent shares: R. G. Newcombe, "Interval
 * estimation for the difference between independent proportions: comparison of eleven methods", Statistics in Medicine
 * 17 (1998), method 10.
 */

/** The normal quantile of a two-sided 95 % interval. */
const Z = 1.959963984540054

export interface Interval {
  readonly low: number
  readonly high: number
}

/** What was reached by how many of how many. */
export interface Share {
  readonly reached: number
  readonly of: number
}

/**
 * The 95 % interval of a share.
 *
 * @param share whole numbers, `0 <= reached <= of`
 * @returns between 0 and 1; everything is possible where nobody was looked at
 */
export function wilson({ reached, of }: Share): Interval {
  if (of === 0) return { low: 0, high: 1 }
  const z2 = Z * Z
  const middle = (2 * reached + z2) / (2 * (of + z2))
  const half = (Z * Math.sqrt(z2 + (4 * reached * (of - reached)) / of)) / (2 * (of + z2))
  // At the ends the formula comes to the end itself, but for rounding.
  return { low: reached === 0 ? 0 : middle - half, high: reached === of ? 1 : middle + half }
}

const shareOf = ({ reached, of }: Share): number => (of === 0 ? 0 : reached / of)

/**
 * The 95 % interval of how much greater one share is than another one.
 *
 * @returns between -1 and 1
 */
export function newcombe(one: Share, other: Share): Interval {
  const [a, b] = [shareOf(one), shareOf(other)]
  const [of, against] = [wilson(one), wilson(other)]
  return {
    low: a - b - Math.hypot(a - of.low, against.high - b),
    high: a - b + Math.hypot(of.high - a, b - against.low),
  }
}

/** With so few nothing is said of a share: its interval is wider than forty points. */
export const SHARE_LEAST = 20

const MORE_MOST = 1_000_000

/**
 * How many more records are needed, in both groups as they are shared out now, until the difference that is seen would
 * be told from none: its interval leaves 0 out. `null` where it does already, or no number of records is enough.
 */
export function moreNeeded(one: Share, other: Share): number | null {
  const tells = (times: number): boolean => {
    // The formulas take parts of records too: rounding would make the answer jump to and fro.
    const more = ({ reached, of }: Share): Share => ({ reached: reached * times, of: of * times })
    const { low, high } = newcombe(more(one), more(other))
    return low > 0 || high < 0
  }
  const now = one.of + other.of
  if (one.of === 0 || other.of === 0 || tells(1) || shareOf(one) === shareOf(other)) return null
  let [few, enough] = [1, 2]
  while (!tells(enough)) {
    few = enough
    enough *= 2
    if (enough * now > MORE_MOST) return null
  }
  for (let i = 0; i < 20; i++) {
    const middle = (few + enough) / 2
    if (tells(middle)) enough = middle
    else few = middle
  }
  return Math.max(1, Math.ceil(now * enough) - now)
}
