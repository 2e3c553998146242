import { randomInt, timingSafeEqual } from 'node:crypto'
import type { H3Event } from 'h3'

/** Without what is easily taken for something else. */
const LETTERS = '23456789ABCDEFGHJKMNPQRSTUVWXYZ'
const LENGTH = 12

const makeCode = (): string =>
  Array.from(
    { length: LENGTH },
    (_, i) => `${i > 0 && i % 4 === 0 ? '-' : ''}${LETTERS[randomInt(LETTERS.length)] ?? ''}`,
  ).join('')

/** Shown where the server was started, to whoever may set it up from elsewhere. A new one with each start. */
export const SET_UP_CODE = makeCode()

const LOOPBACK = /^(?:127\.|::1$|::ffff:127\.)/

/**
 * Whether a request comes from the machine itself. What a proxy passes on does not: it says so, or the machine's name
 * is another one than its own.
 */
export const isLocal = (event: H3Event): boolean =>
  LOOPBACK.test(event.node.req.socket.remoteAddress ?? '') &&
  getHeader(event, 'x-forwarded-for') === undefined &&
  getHeader(event, 'forwarded') === undefined &&
  /^(?:localhost|127\.\d+\.\d+\.\d+|\[::1\])(?::\d+)?$/.test(getHeader(event, 'host') ?? '')

export const isSetUpCode = (given: string): boolean => {
  const [a, b] = [Buffer.from(given.trim().toUpperCase()), Buffer.from(SET_UP_CODE)]
  return a.length === b.length && timingSafeEqual(a, b)
}
