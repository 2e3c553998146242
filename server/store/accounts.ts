import { eq } from 'drizzle-orm'
import type { z } from 'zod'
import { seal, unseal } from '../db/seal'
import { zMailAccount, type MailAccount } from '../channels/mail/account'
import { zTextGateway, type TextGateway } from '../channels/text'
import type { Db } from '../db/connect'
import { secrets } from '../db/schema/records'

/** By what messages leave the house, with their secrets sealed. Read anew each time: another process may change it. */

const NAMES = { mail: 'mail account', text: 'text gateway' } as const

export interface Accounts {
  /** `null` for the simulated one. */
  mail(): MailAccount | null
  text(): TextGateway | null
  setMail(account: MailAccount | null): void
  setText(gateway: TextGateway | null): void
}

export function openAccounts(db: Db): Accounts {
  const read = <T>(name: string, schema: z.ZodType<T>): T | null => {
    const row = db.orm.select().from(secrets).where(eq(secrets.name, name)).get()
    const text = row ? unseal(db.sqlite.name, row.value) : null
    return text === null ? null : (schema.safeParse(JSON.parse(text)).data ?? null)
  }
  const write = (name: string, value: object | null): void => {
    if (value === null) {
      db.orm.delete(secrets).where(eq(secrets.name, name)).run()
      return
    }
    const sealed = seal(db.sqlite.name, JSON.stringify(value))
    db.orm
      .insert(secrets)
      .values({ name, value: sealed })
      .onConflictDoUpdate({ target: secrets.name, set: { value: sealed } })
      .run()
  }
  return {
    mail: () => read(NAMES.mail, zMailAccount),
    text: () => read(NAMES.text, zTextGateway),
    setMail: (account) => write(NAMES.mail, account),
    setText: (gateway) => write(NAMES.text, gateway),
  }
}
