import type { z } from 'zod'
import { unseal } from '../db/seal'
import { zMailAccount, type MailAccount } from '../channels/mail/account'
import { zDialler, type Dialler } from '../channels/call'
import { zTextGateway, type TextGateway } from '../channels/text'
import type { Db } from '../db/connect'
import { writeSecret } from './secret'

/** By what messages leave the house, with their secrets sealed. Read anew each time: another process may change it. */

const NAMES = { mail: 'mail account', text: 'text gateway', dialler: 'dialler' } as const

export interface Accounts {
  /** `null` for the simulated one. */
  mail(): MailAccount | null
  text(): TextGateway | null
  dialler(): Dialler | null
  setMail(account: MailAccount | null): void
  setText(gateway: TextGateway | null): void
  setDialler(dialler: Dialler | null): void
}

export function openAccounts(db: Db): Accounts {
  const stored = db.sqlite.prepare<[string], string>('SELECT value FROM secrets WHERE name = ?').pluck()
  /** What was read last, by what it was read from: every message asks. */
  const known = new Map<string, { readonly sealed: string; readonly value: unknown }>()
  const read = <T>(name: string, schema: z.ZodType<T>): T | null => {
    const sealed = stored.get(name)
    if (sealed === undefined) return null
    const before = known.get(name)
    // One name is always read by one schema.
    if (before?.sealed === sealed) return before.value as T | null
    const text = unseal(db.sqlite.name, sealed)
    const value = text === null ? null : (schema.safeParse(JSON.parse(text)).data ?? null)
    known.set(name, { sealed, value })
    return value
  }
  const write = (name: string, value: object | null): void => writeSecret(db, name, value)
  return {
    mail: () => read(NAMES.mail, zMailAccount),
    text: () => read(NAMES.text, zTextGateway),
    dialler: () => read(NAMES.dialler, zDialler),
    setMail: (account) => write(NAMES.mail, account),
    setText: (gateway) => write(NAMES.text, gateway),
    setDialler: (dialler) => write(NAMES.dialler, dialler),
  }
}
