import { createCipheriv, createDecipheriv, createHash, randomBytes } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'

/** Secrets as they are kept: sealed with a key that does not lie in the database (AES-256-GCM, NIST SP 800-38D). */

const KEY_BYTES = 32
const IV_BYTES = 12
const TAG_BYTES = 16

const keys = new Map<string, Buffer>()

/**
 * The key: from SKY_LEVER_SECRET where that is set, otherwise from a file beside the database that only its owner can
 * read, made when it is needed first.
 */
function keyFor(dbFile: string): Buffer {
  const given = process.env.SKY_LEVER_SECRET
  if (given) return createHash('sha256').update(given).digest()
  const known = keys.get(dbFile)
  if (known) return known
  if (dbFile === ':memory:') return Buffer.alloc(KEY_BYTES, 7)
  const file = `${dbFile}.key`
  try {
    // Two processes may begin at once: the first one's key counts.
    if (!existsSync(file)) writeFileSync(file, randomBytes(KEY_BYTES).toString('hex'), { mode: 0o600, flag: 'wx' })
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
  }
  const key = Buffer.from(readFileSync(file, 'utf8').trim(), 'hex')
  if (key.length !== KEY_BYTES)
    throw new Error(`the key in ${file} is not whole: put back the one that belongs to the database`)
  keys.set(dbFile, key)
  return key
}

export function seal(dbFile: string, text: string): string {
  const iv = randomBytes(IV_BYTES)
  const cipher = createCipheriv('aes-256-gcm', keyFor(dbFile), iv)
  const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
  return Buffer.concat([iv, cipher.getAuthTag(), sealed]).toString('base64')
}

/** `null` where it was sealed with another key, or is not whole. */
export function unseal(dbFile: string, sealed: string): string | null {
  const bytes = Buffer.from(sealed, 'base64')
  try {
    const cipher = createDecipheriv('aes-256-gcm', keyFor(dbFile), bytes.subarray(0, IV_BYTES))
    cipher.setAuthTag(bytes.subarray(IV_BYTES, IV_BYTES + TAG_BYTES))
    return Buffer.concat([cipher.update(bytes.subarray(IV_BYTES + TAG_BYTES)), cipher.final()]).toString('utf8')
  } catch {
    return null
  }
}
