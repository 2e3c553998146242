import { wentIn } from '../../scripts/lint/plain-words.mjs'

/** So many of everything that a message counts. */
export const NUMBERS = [0, 1, 2, 1000]
/** Whether a word is left that went from our texts. */
export const old = (text: string): string | null => wentIn(text)?.word ?? null

type ByCode<T extends { readonly code: string }> = {
  readonly [C in T['code']]: readonly Omit<Extract<T, { readonly code: C }>, 'code'>[]
}
/** The facts by code, as messages; a code that nobody gives facts for does not compile. */
export const coded = <T extends { readonly code: string }>(facts: ByCode<T>): readonly T[] =>
  Object.entries<readonly object[]>(facts).flatMap(([code, many]) =>
    many.map((one) => ({ code, ...one }) as unknown as T),
  )

/** What is wrong with a message, if anything: a part is missing, a blank or a prefix is doubled, a word went. */
export function wrongIn(text: string): string | null {
  if (/undefined|null|NaN|\[object|\$\{/.test(text)) return 'a part is missing'
  if (/ {2}|\.\.|,,| [.,;:]/.test(text)) return 'blanks or marks are doubled'
  if (/(^|: )(\w+): \2:/.test(text)) return 'a prefix is doubled'
  if (old(text)) return `an old word: ${old(text) ?? ''}`
  if (/\b1 (?!of)(\w+ )?(rows|records|deals|companies|changes|characters)\b/.test(text)) return 'one of several'
  if (/(?<![\d,])1 \w+ (are|match|have)\b/.test(text)) return 'a verb that does not agree'
  return null
}
