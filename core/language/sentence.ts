/**
 * One piece of a sentence. A piece with a `param` can be edited: the name says which part of the params, and the
 * kind's form says with which widget. `missing` marks what is still to be chosen.
 */
export type SentencePart =
  | { readonly text: string }
  /** `soft` marks what may be left out: it is offered on the sheet and not said aloud. */
  | { readonly param: string; readonly text: string; readonly missing?: boolean; readonly soft?: boolean }
  /** A merge field inside a text, with its words; belongs to the text of `param`. */
  | { readonly merge: string; readonly label: string; readonly param: string }
  | { readonly break: true }

export const say = (text: string): SentencePart => ({ text })

export const word = (param: string, text: string | null, placeholder: string): SentencePart =>
  text === null || text === '' ? { param, text: placeholder, missing: true } : { param, text }

/** The sentence as one text, for lists, the journal and screen readers. */
export const plainSentence = (parts: readonly SentencePart[]): string =>
  parts
    .map((part) =>
      'break' in part ? ' — ' : 'merge' in part ? `[${part.label}]` : 'soft' in part && part.soft ? '' : part.text,
    )
    .join('')
    .replace(/\s+/g, ' ')
    // What may be left out leaves the commas around it behind.
    .replace(/,(?:\s*,)+/g, ',')
    .replace(/,\s*—/g, ' —')
    .replace(/( — )+$/, '')
    .replace(/,\s*$/, '')
    .trim()
