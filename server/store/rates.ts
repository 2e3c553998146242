import { and, asc, count, desc, eq, inArray, lt, max, min, sql } from 'drizzle-orm'
import type { Rate, RatesFrom } from '../../core/money/rates'
import type { Db } from '../db/connect'
import { rates, workspace } from '../db/schema/catalogue'

/** Dated rates of currencies, and who delivers them. */
export class RateStore {
  constructor(private readonly db: Db) {}

  all(): readonly Rate[] {
    return this.db.orm.select().from(rates).orderBy(asc(rates.code), asc(rates.day)).all()
  }

  /** Writes rates over those that are there for the same day. */
  put(some: readonly Rate[]): void {
    const write = this.db.sqlite.prepare<[string, string, number]>(
      'INSERT INTO rates (code, day, per_own) VALUES (?, ?, ?) ON CONFLICT (code, day) DO UPDATE SET per_own = excluded.per_own',
    )
    for (const { code, day, perOwn } of some) write.run(code, day, perOwn)
  }

  /** Answers whether there was one. */
  remove(code: string, day: string): boolean {
    return (
      this.db.orm
        .delete(rates)
        .where(and(eq(rates.code, code), eq(rates.day, day)))
        .run().changes > 0
    )
  }

  /** The newest day for which there is a rate. */
  newestDay(): string | null {
    return (
      this.db.orm
        .select({ day: max(rates.day) })
        .from(rates)
        .get()?.day ?? null
    )
  }

  /** How many rates each currency has, and from when to when. */
  spans(): readonly { readonly code: string; readonly n: number; readonly from: string; readonly to: string }[] {
    return this.db.orm
      .select({
        code: rates.code,
        n: count(),
        from: sql<string>`${min(rates.day)}`,
        to: sql<string>`${max(rates.day)}`,
      })
      .from(rates)
      .groupBy(rates.code)
      .orderBy(asc(rates.code))
      .all()
  }

  /** The newest days that have a rate, before one of them, and the rates of those days. */
  page(before: string | null, limit: number): { readonly days: readonly string[]; readonly rates: readonly Rate[] } {
    const days = this.db.orm
      .selectDistinct({ day: rates.day })
      .from(rates)
      .where(before === null ? undefined : lt(rates.day, before))
      .orderBy(desc(rates.day))
      .limit(limit)
      .all()
      .map((row) => row.day)
    return {
      days,
      rates: days.length === 0 ? [] : this.db.orm.select().from(rates).where(inArray(rates.day, days)).all(),
    }
  }

  from(): RatesFrom | null {
    return this.db.orm.select({ from: workspace.ratesFrom }).from(workspace).get()?.from ?? null
  }

  setFrom(from: RatesFrom | null): void {
    this.db.orm.update(workspace).set({ ratesFrom: from }).run()
  }
}
