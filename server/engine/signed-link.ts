import { createHmac, timingSafeEqual } from 'node:crypto'
import type { Workspace } from './workspace'

/** Of the signature, 96 bits: a link stays short, and nobody guesses it. */
const SIGNATURE_LENGTH = 16
/** What a link can be about: whoever follows it, or something that only its people may change. */
type Signed = 'contact' | 'appointment'

const signatureOf = (what: Signed, id: number, secret: string): string =>
  createHmac('sha256', secret).update(`${what} ${id}`).digest('base64url').slice(0, SIGNATURE_LENGTH)

/** What stands in a link for a record, so that nobody can make one for another (HMAC-SHA-256, RFC 2104). */
export const signed = (workspace: Workspace, what: Signed, id: number): string =>
  `${id}.${signatureOf(what, id, workspace.store.websites.secret())}`

/** The number of the record that such a link was made for; `null` for what was not made here. */
export function readSigned(workspace: Workspace, what: Signed, text: string): number | null {
  const [, id, signature] = /^(\d{1,15})\.([\w-]+)$/.exec(text) ?? []
  if (id === undefined || signature?.length !== SIGNATURE_LENGTH) return null
  const right = signatureOf(what, Number(id), workspace.store.websites.secret())
  return timingSafeEqual(Buffer.from(right), Buffer.from(signature)) ? Number(id) : null
}
