/**
 * One piece of a sentence. A piece with a `param` can be edited: the name says which part of the params, and the
 * kind's form says with which widget. `missing` marks what is still to be chosen.
 */
export type SentencePart =
  | { readonly text: string }
  /**
   * `usual` marks what stands at its usual value: it is not said aloud, and the sheet folds it away until it is wanted.
   */
  | { readonly param: string; readonly text: string; readonly missing?: boolean; readonly usual?: boolean }
  /** A merge field inside a text, with its words; belongs to the text of `param`. */
  | { readonly merge: string; readonly label: string; readonly param: string }
  | { readonly break: true }

export const say = (text: string): SentencePart => ({ text })

export const word = (param: string, text: string | null, placeholder: string): SentencePart =>
  text === null || text === '' ? { param, text: placeholder, missing: true } : { param, text }

/** A word that can be set and need not be: while `usual` it stands at what nearly every rule wants. */
export const extra = (param: string, text: string, usual: boolean): SentencePart => ({ param, text, usual })

/** Whether a part is folded away while nobody asks for the usual. */
export const isUsual = (part: SentencePart): boolean => 'usual' in part && part.usual === true

/** The words that are folded away, as one text for whoever opens them. */
export const usualWords = (parts: readonly SentencePart[]): readonly string[] =>
  parts.flatMap((part) => (isUsual(part) && 'text' in part ? [part.text] : []))

const LEADING = /[,;:]? ?$/

/** The parts without what stands at its usual value, and without the commas that led to it. */
export function foldUsual(parts: readonly SentencePart[]): readonly SentencePart[] {
  const kept: SentencePart[] = []
  for (const part of parts) {
    if (!isUsual(part)) {
      const last = kept.at(-1)
      // A line that lost all its words is none.
      if ('break' in part && (last === undefined || 'break' in last)) continue
      kept.push(part)
      continue
    }
    const last = kept.at(-1)
    if (last && 'text' in last && !('param' in last)) {
      const text = last.text.replace(LEADING, '')
      kept.pop()
      if (text !== '') kept.push({ text })
    }
  }
  while (kept.length > 0 && 'break' in (kept.at(-1) ?? {})) kept.pop()
  return kept
}

/** The sentence as one text, for lists, the journal and screen readers; a second line is a sentence of its own. */
export const plainSentence = (parts: readonly SentencePart[]): string =>
  foldUsual(parts)
    .map((part) => ('break' in part ? '. ' : 'merge' in part ? `{${part.label}}` : part.text))
    .join('')
    .replace(/\s+/g, ' ')
    .replace(/(?:[.,;] ?)+$/, '')
    .trim()
