/**
 * Patterns of `matches`, `replace` and `split` (XPath and XQuery Functions 3.1, 5.6). They are found by an engine that
 * takes time in proportion to the text, whatever somebody writes; so references back to a group are refused. It is
 * large and only asked where formulas are worked out, so it is handed in: pages check formulas without it.
 */
export interface Pattern {
  /** How much work a letter is, at the most. */
  readonly size: number
  matches(text: string): boolean
  replace(text: string, by: string): string
  split(text: string): readonly string[]
}

/** Makes a pattern; throws an error whose message says what is wrong with it. */
export type PatternEngine = (
  pattern: string,
  flags: { readonly ignoreCase: boolean; readonly multiline: boolean; readonly dotAll: boolean },
) => Pattern

let engine: PatternEngine | null = null
export function usePatterns(given: PatternEngine): void {
  engine = given
}

/** Patterns of more parts than this are refused. */
const SIZE_MOST = 2000
const KEPT_MOST = 200
const kept = new Map<string, Pattern | string>()

/** Without what is there for the reader only (flag "x"): blanks outside of brackets. */
function condensed(pattern: string): string {
  let [found, inClass] = ['', false]
  for (let i = 0; i < pattern.length; i++) {
    const letter = pattern[i] ?? ''
    if (letter === '\\') found += letter + (pattern[++i] ?? '')
    else {
      if (letter === '[') inClass = true
      if (letter === ']') inClass = false
      if (inClass || !/\s/.test(letter)) found += letter
    }
  }
  return found
}

/** The pattern, or why it is none; `null` where nothing can be found here. */
export function patternOf(pattern: string, flags: string): Pattern | string | null {
  if (!/^[smix]*$/.test(flags)) return `“${flags}” is no set of flags; there are s, m, i and x.`
  if (!engine) return null
  const key = `${flags} ${pattern}`
  const known = kept.get(key)
  if (known !== undefined) return known
  let made: Pattern | string
  try {
    made = engine(flags.includes('x') ? condensed(pattern) : pattern, {
      ignoreCase: flags.includes('i'),
      multiline: flags.includes('m'),
      dotAll: flags.includes('s'),
    })
    if (made.size > SIZE_MOST) made = 'The pattern is too large.'
  } catch (error) {
    made = `“${pattern}” is not a pattern: ${error instanceof Error ? error.message : String(error)}.`
  }
  if (kept.size >= KEPT_MOST) kept.clear()
  kept.set(key, made)
  return made
}
