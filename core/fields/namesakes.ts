import { foldText } from '../language/value'

/** How many letters must be put in, taken out or changed to make one word of the other (Levenshtein distance). */
function distance(a: string, b: string): number {
  let before = Array.from({ length: b.length + 1 }, (_, i) => i)
  for (let i = 1; i <= a.length; i++) {
    const row = [i]
    for (let j = 1; j <= b.length; j++)
      row[j] = Math.min(
        (row[j - 1] ?? 0) + 1,
        (before[j] ?? 0) + 1,
        (before[j - 1] ?? 0) + (a[i - 1] === b[j - 1] ? 0 : 1),
      )
    before = row
  }
  return before[b.length] ?? 0
}

/** Letters that may differ; more in longer words would make strangers of one family. */
const TYPO = 2
/** Shorter words are too common to make two labels alike. */
const WORD_LEAST = 4

/** Whether two labels are easily taken for one another: nearly the same letters, or the same telling word in both. */
export function nearNames(a: string, b: string): boolean {
  const [one, other] = [foldText(a), foldText(b)]
  if (one === other) return true
  if (Math.min(one.length, other.length) > WORD_LEAST && distance(one, other) <= TYPO) return true
  const words = (text: string) => text.split(/[^\p{L}\d]+/u).filter((word) => word.length >= WORD_LEAST)
  return words(one).some((word) => words(other).includes(word))
}

/** The keys of those fields that another one of the list could be taken for. */
export function namesakes(fields: readonly { readonly key: string; readonly label: string }[]): ReadonlySet<string> {
  return new Set(
    fields
      .filter((field) => fields.some((other) => other !== field && nearNames(field.label, other.label)))
      .map((field) => field.key),
  )
}
