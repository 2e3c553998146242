import { foldText } from '#core/language/value'

interface Named {
  readonly label: string
  readonly words?: string
  readonly group?: string
  readonly hint?: string
}

/**
 * How well an option fits what was typed, the lower the better: the exact name, a name that begins with it, a word of
 * the name that does, whole words of what is said about it, letters somewhere in the name, and then in what is said
 * about it; `null` where a word is missing.
 */
function rank(option: Named, typed: string): number | null {
  const label = foldText(option.label)
  if (label === typed) return 0
  if (label.startsWith(typed)) return 1
  const wanted = typed.split(' ').filter(Boolean)
  const parts = label.split(/[^\p{L}\p{N}]+/u)
  if (wanted.every((word) => parts.some((part) => part.startsWith(word)))) return 2
  const all = foldText(`${option.label} ${option.words ?? ''} ${option.group ?? ''} ${option.hint ?? ''}`)
  // "tag" means what is also called so, and not the letters inside of "stage".
  const said = new Set(all.split(/[^\p{L}\p{N}]+/u))
  if (wanted.every((word) => said.has(word))) return 3
  if (wanted.every((word) => label.includes(word))) return 4
  return wanted.every((word) => all.includes(word)) ? 5 : null
}

/** The options that fit, the best first; in their own order where they fit alike, and all while nothing is typed. */
export function ranked<O extends Named>(options: readonly O[], words: string): readonly O[] {
  const typed = foldText(words)
  if (typed === '') return options
  return options
    .flatMap((option, at) => {
      const fit = rank(option, typed)
      return fit === null ? [] : [{ option, at, fit }]
    })
    .sort((a, b) => a.fit - b.fit || a.at - b.at)
    .map(({ option }) => option)
}
