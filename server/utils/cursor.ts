import { ProblemError } from './problem'

/**
 * Where a page begins, as an opaque text: whoever pages gives back what they were given. It is an id, or what a list is
 * in the order of with an id behind it.
 */
export const sayCursor = (at: number | readonly number[] | null): string | null =>
  at === null ? null : Buffer.from(`after ${typeof at === 'number' ? at : at.join(' ')}`).toString('base64url')

/** The id that a cursor stands for; `null` without one. Refuses what is no cursor of ours. */
export const readCursor = (cursor: string | undefined): number | null => readPlace(cursor, 1)?.[0] ?? null

/** The numbers that a cursor stands for; `null` without one. Refuses what is no cursor of ours with so many. */
export function readPlace(cursor: string | undefined, numbers: number): readonly number[] | null {
  if (cursor === undefined) return null
  const found = /^after (\d{1,15}(?: \d{1,15})*)$/.exec(Buffer.from(cursor, 'base64url').toString('utf8'))
  const place = found?.[1]?.split(' ').map(Number) ?? []
  if (place.length !== numbers) throw new ProblemError({ code: 'cursorInvalid' })
  return place
}
