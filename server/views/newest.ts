/** So many are looked at for those that may be told. */
const LOOKED_MOST = 2000

/**
 * The newest `most` of those that may be told. They are read in pages, so that what is left out does not push out what
 * came before it: a list that got shorter would tell that something hidden happened.
 */
export function newest<T>(
  most: number,
  read: (limit: number, before: number | undefined) => readonly T[],
  place: (one: T) => number,
  tells: (one: T) => boolean,
): readonly T[] {
  const found: T[] = []
  let before: number | undefined
  for (let looked = 0; looked < LOOKED_MOST && found.length < most;) {
    const page = read(most, before)
    looked += page.length
    found.push(...page.filter(tells))
    const last = page.at(-1)
    if (last === undefined || page.length < most) break
    before = place(last)
  }
  return found.slice(0, most)
}
