/**
 * An act that is under way is not begun again: whoever presses twice, or presses Enter and the button, means it once.
 * It is over when all is done that follows from it, such as going to the page of what was made. Where it is done to one
 * of several, `of` says which: the others may be under way beside it.
 */
export function once<A extends readonly unknown[]>(
  act: (...given: A) => Promise<void>,
  of: (...given: A) => unknown = () => null,
): (...given: A) => Promise<void> {
  const going = new Map<unknown, Promise<void>>()
  return (...given) => {
    const which = of(...given)
    const before = going.get(which)
    if (before) return before
    const begun = act(...given).finally(() => going.delete(which))
    going.set(which, begun)
    return begun
  }
}
