/** A piece of a page in which every text is written as text. */
export class Html {
  constructor(readonly text: string) {}
}

const LETTERS: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
}
const escaped = (text: string): string => text.replace(/[&<>"']/g, (letter) => LETTERS[letter] ?? letter)

type Part = string | number | Html | null | false | readonly Html[]

const written = (part: Part): string =>
  part === null || part === false
    ? ''
    : part instanceof Html
      ? part.text
      : typeof part === 'object'
        ? part.map((one) => one.text).join('')
        : escaped(String(part))

/** HTML as it is written here; what is put in is text, unless it is such a piece itself. Attributes stand in quotes. */
export const html = (texts: TemplateStringsArray, ...parts: readonly Part[]): Html =>
  new Html(texts.map((text, i) => text + (i < parts.length ? written(parts[i] ?? null) : '')).join(''))
