import type { Socket } from 'node:net'
import type { H3Event } from 'h3'
import type { Denial } from '../../core/language/answers'
import { ProblemError } from './problem'

/** No document of ours is nested deeper; what is, would only fill the stack of whoever reads it. */
const DEPTH_MOST = 200
/** Keys and items in one body. */
const PARTS_MOST = 50_000

const tooLarge = (most: number): ProblemError => new ProblemError({ code: 'bodyTooLarge', mostBytes: most })

/** Reads what came, and no more than may; nothing at all of what says beforehand that it is larger. */
async function readText(event: H3Event, most: number): Promise<string> {
  const { req, res } = event.node
  // A page that is made here asks here: nothing came over a wire.
  if (!(req.socket as Socket & { readonly server?: unknown }).server) return (await readRawBody(event)) ?? ''
  const refuse = (): never => {
    // What is still on its way would have to be read for the next request on this connection.
    res.setHeader('connection', 'close')
    throw tooLarge(most)
  }
  if (Number(getHeader(event, 'content-length') ?? 0) > most) return refuse()
  const pieces: Buffer[] = []
  let size = 0
  for await (const piece of req as AsyncIterable<Buffer>) {
    size += piece.length
    if (size > most) return refuse()
    pieces.push(piece)
  }
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(Buffer.concat(pieces))
  } catch {
    throw new ProblemError({ code: 'bodyNotText' })
  }
}

/** Why a text that may be JSON is not even read: it is nested too deep, or is made of too many parts. */
export function tooMuch(text: string): Denial | null {
  let [depth, parts, quoted] = [0, 0, false]
  for (let i = 0; i < text.length; i++) {
    const letter = text.charCodeAt(i)
    if (quoted) {
      if (letter === 0x5c) i++
      else if (letter === 0x22) quoted = false
      continue
    }
    if (letter === 0x22) {
      quoted = true
      // Long texts hold no parts: their end is found at once.
      const end = text.indexOf('"', i + 1)
      if (end > i && text.charCodeAt(end - 1) !== 0x5c) {
        i = end
        quoted = false
      }
    } else if (letter === 0x7b || letter === 0x5b) {
      parts++
      if (++depth > DEPTH_MOST) return { code: 'bodyTooDeep', most: DEPTH_MOST }
    } else if (letter === 0x7d || letter === 0x5d) depth--
    else if (letter === 0x2c && ++parts > PARTS_MOST) return { code: 'bodyTooMany', most: PARTS_MOST }
  }
  return null
}

/** Between the steps of reading something large others are served. */
const LARGE = 2_000_000
const breath = (text: string): Promise<void> | void =>
  text.length > LARGE ? new Promise((resolve) => setImmediate(resolve)) : undefined

/** What is large is read one after the other: several at once would be in memory several times over. */
let largeOnes: Promise<unknown> = Promise.resolve()
async function inLine<T>(large: boolean, work: () => Promise<T>): Promise<T> {
  if (!large) return await work()
  const mine = largeOnes.then(work, work)
  largeOnes = mine.catch(() => {})
  return await mine
}

/** The fields of a form, at most so many bytes of it (URL Living Standard, application/x-www-form-urlencoded). */
export async function readForm(event: H3Event, most: number): Promise<Record<string, string>> {
  return Object.fromEntries(new URLSearchParams(await readText(event, most)))
}

/** A body that is to be JSON, as it was sent: signatures are of its very letters. Refuses what would only cost time. */
export async function readJsonText(event: H3Event, most: number): Promise<string> {
  const text = await readText(event, most)
  const refused = tooMuch(text)
  if (refused !== null) throw new ProblemError(refused)
  return text
}

/** The JSON of a body, at most so many bytes of it (RFC 8259). Refuses what is none, and what would only cost time. */
export function readJson(event: H3Event, most: number): Promise<unknown> {
  return inLine(Number(getHeader(event, 'content-length') ?? 0) > LARGE, () => parsed(event, most))
}

async function parsed(event: H3Event, most: number): Promise<unknown> {
  const text = await readText(event, most)
  await breath(text)
  const refused = tooMuch(text)
  if (refused !== null) throw new ProblemError(refused)
  await breath(text)
  try {
    return JSON.parse(text) as unknown
  } catch {
    throw new ProblemError({ code: 'bodyNotJson' })
  } finally {
    await breath(text)
  }
}
