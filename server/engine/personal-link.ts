import { createHmac, timingSafeEqual } from 'node:crypto'
import type { Workspace } from './workspace'

/** Of the signature, 96 bits: a link stays short, and nobody guesses it. */
const SIGNATURE_LENGTH = 16

const signed = (contactId: number, secret: string): string =>
  createHmac('sha256', secret).update(`contact ${contactId}`).digest('base64url').slice(0, SIGNATURE_LENGTH)

/** What stands in a link that is sent to a contact: who follows it is that contact (HMAC-SHA-256, RFC 2104). */
export const personOf = (workspace: Workspace, contactId: number): string =>
  `${contactId}.${signed(contactId, workspace.store.websites.secret())}`

/** The contact such a link was made for; `null` for what was not made here. */
export function contactOf(workspace: Workspace, person: string): number | null {
  const [, id, signature] = /^(\d{1,15})\.([\w-]+)$/.exec(person) ?? []
  if (id === undefined || signature?.length !== SIGNATURE_LENGTH) return null
  const right = signed(Number(id), workspace.store.websites.secret())
  return timingSafeEqual(Buffer.from(right), Buffer.from(signature)) ? Number(id) : null
}
