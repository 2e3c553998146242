import { eq, sql } from 'drizzle-orm'
import type { Person } from '../../core/fields/field'
import type { Db } from '../db/connect'
import { people } from '../db/schema/catalogue'

export interface Account {
  readonly id: string
  readonly active: boolean
  readonly passwordHash: string | null
}

/** Who works here and how they prove it. The only place that sees hashes of passwords. */
export class PeopleStore {
  private readonly account

  constructor(private readonly db: Db) {
    const fields = {
      id: people.id,
      active: people.active,
      passwordHash: people.passwordHash,
    }
    this.account = db.orm
      .select(fields)
      .from(people)
      .where(eq(people.id, sql.placeholder('id')))
      .prepare()
  }

  add(person: Person, passwordHash: string | null = null): void {
    this.db.orm
      .insert(people)
      .values({ ...person, passwordHash })
      .run()
  }

  update(id: string, change: Partial<Omit<Person, 'id'>>): void {
    if (Object.keys(change).length > 0) this.db.orm.update(people).set(change).where(eq(people.id, id)).run()
  }

  accountOf(id: string): Account | null {
    return (this.account.get({ id }) as Account | undefined) ?? null
  }

  /** Sets the password; who calls ends what the old one had begun. */
  setPassword(id: string, passwordHash: string): void {
    this.db.orm.update(people).set({ passwordHash }).where(eq(people.id, id)).run()
  }
}
