export interface Nested<T> {
  readonly of: T
  readonly within: readonly Nested<T>[]
}

/**
 * A list that tells by a number how deep each line stands, as lists within lists: for those who hear how deep they are.
 * A line that stands deeper than the one before it, by however much, is within it.
 */
export function nested<T>(lines: readonly T[], depthOf: (line: T) => number): readonly Nested<T>[] {
  const all: Nested<T>[] = []
  const open: { readonly depth: number; readonly within: Nested<T>[] }[] = []
  for (const of of lines) {
    const depth = depthOf(of)
    while ((open.at(-1)?.depth ?? -Infinity) >= depth) open.pop()
    const within: Nested<T>[] = []
    ;(open.at(-1)?.within ?? all).push({ of, within })
    open.push({ depth, within })
  }
  return all
}
