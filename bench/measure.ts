/** Units a second of `work`, which says how many it did; repeated for at least `ms`, the best of `tries`. */
export function rate(work: () => number, ms = 400, tries = 3): number {
  work()
  let best = 0
  for (let i = 0; i < tries; i++) {
    const started = performance.now()
    let done = 0
    while (performance.now() - started < ms) done += work()
    best = Math.max(best, (done / (performance.now() - started)) * 1000)
  }
  return best
}

export async function rateAsync(work: () => Promise<number>, ms = 1500): Promise<number> {
  await work()
  const started = performance.now()
  let done = 0
  while (performance.now() - started < ms) done += await work()
  return (done / (performance.now() - started)) * 1000
}

/** "1,240" or "3.2 M". */
export const say = (n: number): string =>
  n >= 1e6 ? `${(n / 1e6).toFixed(2)} M` : n >= 100 ? Math.round(n).toLocaleString('en') : n.toFixed(2)

export interface Row {
  readonly what: string
  readonly figure: string
  /** The ratio that counts, and what it must reach; `null` where only the figure is told. */
  readonly ratio: string | null
  readonly target: string | null
  readonly met: boolean
}

export const row = (
  what: string,
  figure: string,
  ratio: number | null = null,
  target: { readonly least: number } | { readonly most: number } | null = null,
): Row => ({
  what,
  figure,
  ratio: ratio === null ? null : say(ratio),
  target:
    target === null
      ? null
      : 'least' in target
        ? `≥ ${target.least.toLocaleString('en')}`
        : `≤ ${target.most.toLocaleString('en')}`,
  met: ratio === null || target === null || ('least' in target ? ratio >= target.least : ratio <= target.most),
})
