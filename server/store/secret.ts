import { eq } from 'drizzle-orm'
import type { z } from 'zod'
import type { Db } from '../db/connect'
import { seal, unseal } from '../db/seal'
import { secrets } from '../db/schema/records'

/** A text that is sealed, by its name; `null` where there is none, or a copy of the file came without its key. */
export function readSealed(db: Db, name: string): string | null {
  const row = db.orm.select().from(secrets).where(eq(secrets.name, name)).get()
  return row ? unseal(db.sqlite.name, row.value) : null
}

export function writeSealed(db: Db, name: string, text: string): void {
  const value = seal(db.sqlite.name, text)
  db.orm.insert(secrets).values({ name, value }).onConflictDoUpdate({ target: secrets.name, set: { value } }).run()
}

/** As `readSealed`, for what has parts; `null` also where it does not fit any more. */
export function readSecret<T>(db: Db, name: string, schema: z.ZodType<T>): T | null {
  const text = readSealed(db, name)
  return text === null ? null : (schema.safeParse(JSON.parse(text)).data ?? null)
}

export function writeSecret(db: Db, name: string, value: object | null): void {
  if (value === null) db.orm.delete(secrets).where(eq(secrets.name, name)).run()
  else writeSealed(db, name, JSON.stringify(value))
}
