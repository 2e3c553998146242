import { z } from 'zod'
/**
 * What a field of a record can hold, as stored, sent over the API and written in rule documents.
 *
 * Dates are `YYYY-MM-DD` texts, instants are integer milliseconds UTC, choices, stages and people are ids.
 * `null` is the one and only empty: blank texts and empty lists become `null` when parsed.
 */
export type Value = string | number | boolean | null | readonly string[]

export type Values = { readonly [key: string]: Value }

/** True when there is nothing there. Every type agrees on this one meaning of empty. */
export const isEmpty = (value: Value | undefined): value is null | undefined => value === null || value === undefined

/** True when both hold the same, element by element and in order for lists. */
export function sameValue(a: Value | undefined, b: Value | undefined): boolean {
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((item, i) => item === b[i])
  return (a ?? null) === (b ?? null)
}

/** Case, surrounding blanks and accents do not count when texts are compared. */
export function foldText(text: string): string {
  // Most texts hold nothing that could be told apart but case and blanks, and this is asked for every cell of a file.
  if (/^[!-~]+(?: [!-~]+)*$/.test(text)) return text.toLowerCase()
  return text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .replace(/\s+/g, ' ')
    .trim()
    .toLocaleLowerCase('en')
}

export const TEXT_MOST = 500

export const LONG_TEXT_MOST = 20_000

/** A value as it may stand in a document; whether it fits its field is checked with the catalogue at hand. */
export const zValue: z.ZodType<Value> = z.union([
  z.string().max(LONG_TEXT_MOST),
  z.number(),
  z.boolean(),
  z.null(),
  z.array(z.string().max(500)).max(500),
])
