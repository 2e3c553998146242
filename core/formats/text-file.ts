/**
 * The text of a file. Spreadsheets write UTF-8 with or without a mark, UTF-16 ("Unicode text"), or the Windows code
 * page of the part of Europe they stand in, which no file says: that is guessed by the letters, and can be chosen.
 */

export const CODE_PAGES = ['windows-1252', 'windows-1250'] as const
export type CodePage = (typeof CODE_PAGES)[number]
export const CODE_PAGE_WORDS: { readonly [P in CodePage]: string } = {
  'windows-1252': 'Western European (Windows-1252)',
  'windows-1250': 'Central European (Windows-1250)',
}

export interface TextFile {
  readonly text: string
  /** How it was read; a code page is a guess. */
  readonly encoding: 'utf-8' | 'utf-16le' | 'utf-16be' | CodePage
  /** Set where the other code page would read other letters: what both make of the first lines that differ. */
  readonly samples: { readonly [P in CodePage]: string } | null
}

const SAMPLE_LINES = 3
const SAMPLE_MOST = 300
const LOOKED_MOST = 200_000

/**
 * Letters of languages that are written with the page, beyond those that both have in the same place. Portuguese õ
 * stands where Hungarian ő does, but before an e.
 */
const LETTERS: { readonly [P in CodePage]: RegExp } = {
  'windows-1252': /õe|[àâãåæèêëìîïñòøùÿÀÂÃÅÆÈÊËÌÎÏÑÒØÙœŒ]/g,
  'windows-1250': /[ąćčďęěłĺľńňőřŕśšťůűźżžşţăđĄĆČĎĘĚŁĹĽŃŇŐŘŔŚŠŤŮŰŹŻŽŞŢĂĐ]/g,
}
/** A sign in the midst of a word is a letter that was read wrongly. */
const INSIDE = /\p{L}[^\p{L}\p{N}\s"'’,;:.()&@/|\-_+?!=%*#\t]\p{L}/gu

const utf8 = (bytes: Uint8Array): string | null => {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return null
  }
}

/** UTF-16 says itself by its mark, or by a zero in every other byte. */
function wide(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | null {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le'
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be'
  const some = bytes.subarray(0, 2000)
  if (some.length < 4 || bytes.length % 2 !== 0) return null
  const zeros = [0, 0]
  some.forEach((byte, i) => {
    if (byte === 0) zeros[i % 2] = (zeros[i % 2] ?? 0) + 1
  })
  const [even = 0, odd = 0] = zeros
  const half = some.length / 2
  return odd > half * 0.6 && even === 0 ? 'utf-16le' : even > half * 0.6 && odd === 0 ? 'utf-16be' : null
}

function fit(text: string, page: CodePage): number {
  const some = text.slice(0, LOOKED_MOST)
  return (some.match(LETTERS[page])?.length ?? 0) - 2 * (some.match(INSIDE)?.length ?? 0)
}

function samplesOf(texts: { readonly [P in CodePage]: string }): TextFile['samples'] {
  const [one, other] = CODE_PAGES.map((page) => texts[page].split(/\r\n?|\n/)) as [string[], string[]]
  const differing = one.flatMap((line, i) => (line === other[i] ? [] : [i])).slice(0, SAMPLE_LINES)
  if (differing.length === 0) return null
  const some = (lines: readonly string[]): string =>
    differing
      .map((i) => lines[i] ?? '')
      .join('\n')
      .slice(0, SAMPLE_MOST)
  return { 'windows-1252': some(one), 'windows-1250': some(other) }
}

/**
 * Reads a file's bytes as text, without the mark at its beginning. `page` is the code page that somebody chose for what
 * is neither UTF-8 nor UTF-16.
 */
export function readTextFile(bytes: Uint8Array, page: CodePage | null = null): TextFile {
  const broad = wide(bytes)
  if (broad) return { text: new TextDecoder(broad).decode(bytes), encoding: broad, samples: null }
  const plain = utf8(bytes)
  if (plain !== null) return { text: plain, encoding: 'utf-8', samples: null }
  const texts = {
    'windows-1252': new TextDecoder('windows-1252').decode(bytes),
    'windows-1250': new TextDecoder('windows-1250').decode(bytes),
  }
  const [western, central] = CODE_PAGES.map((one) => fit(texts[one], one)) as [number, number]
  const encoding = page ?? (central > western ? 'windows-1250' : 'windows-1252')
  return { text: texts[encoding], encoding, samples: samplesOf(texts) }
}
