import { ProblemError } from './problem'

/** Where a page begins, as an opaque text: whoever pages gives back what they were given. */
export const sayCursor = (id: number | null): string | null =>
  id === null ? null : Buffer.from(`after ${id}`).toString('base64url')

/** The id that a cursor stands for; `null` without one. Refuses what is no cursor of ours. */
export function readCursor(cursor: string | undefined): number | null {
  if (cursor === undefined) return null
  const found = /^after (\d{1,15})$/.exec(Buffer.from(cursor, 'base64url').toString('utf8'))
  if (!found)
    throw new ProblemError(400, 'Invalid request', 'Invalid cursor. Use the `next` value of the previous page.', [
      { path: 'cursor', text: 'Invalid cursor. Use the `next` value of the previous page.' },
    ])
  return Number(found[1])
}
