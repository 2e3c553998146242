import { randomBytes } from 'node:crypto'
import { asc, eq } from 'drizzle-orm'
import type { BookingPage, GivenBookingPage } from '../../core/booking/page'
import type { Db } from '../db/connect'
import { bookingPages, bookings, calendarFeeds, calendarUids } from '../db/schema/records'

/** Pages on which people book, what was booked by which, and who reads calendars. */
export class BookingStore {
  constructor(private readonly db: Db) {}

  pages(): readonly BookingPage[] {
    return this.db.orm
      .select()
      .from(bookingPages)
      .orderBy(asc(bookingPages.addedAt), asc(bookingPages.slug))
      .all()
      .map(({ slug, page }) => ({ ...page, slug }))
  }

  page(slug: string): BookingPage | null {
    const found = this.db.orm.select().from(bookingPages).where(eq(bookingPages.slug, slug)).get()
    return found ? { ...found.page, slug } : null
  }

  put(slug: string, page: GivenBookingPage, nowMs: number): void {
    this.db.orm
      .insert(bookingPages)
      .values({ slug, page, addedAt: nowMs })
      .onConflictDoUpdate({ target: bookingPages.slug, set: { page } })
      .run()
  }

  remove(slug: string): boolean {
    return this.db.orm.delete(bookingPages).where(eq(bookingPages.slug, slug)).run().changes > 0
  }

  booked(appointmentId: number, slug: string): void {
    this.db.orm.insert(bookings).values({ appointmentId, slug }).onConflictDoNothing().run()
  }

  /** The page by which an appointment was booked, if that is still there. */
  pageOf(appointmentId: number): BookingPage | null {
    const found = this.db.orm.select().from(bookings).where(eq(bookings.appointmentId, appointmentId)).get()
    return found ? this.page(found.slug) : null
  }

  /** The appointment that a calendar file calls so; `null` when none came from one. */
  ofUid(uid: string): number | null {
    return this.db.orm.select().from(calendarUids).where(eq(calendarUids.uid, uid)).get()?.appointmentId ?? null
  }

  callUid(uid: string, appointmentId: number): void {
    this.db.orm
      .insert(calendarUids)
      .values({ uid, appointmentId })
      .onConflictDoUpdate({ target: calendarUids.uid, set: { appointmentId } })
      .run()
  }

  /** The secret of somebody’s calendar address; `null` when they have none. */
  feedOf(personId: string): string | null {
    return this.db.orm.select().from(calendarFeeds).where(eq(calendarFeeds.personId, personId)).get()?.secret ?? null
  }

  /** A new secret, 160 random bits; an address with the old one leads nowhere from then on. */
  newFeed(personId: string, nowMs: number): string {
    const secret = randomBytes(20).toString('base64url')
    this.db.orm
      .insert(calendarFeeds)
      .values({ personId, secret, madeAt: nowMs })
      .onConflictDoUpdate({ target: calendarFeeds.personId, set: { secret, madeAt: nowMs } })
      .run()
    return secret
  }

  removeFeed(personId: string): void {
    this.db.orm.delete(calendarFeeds).where(eq(calendarFeeds.personId, personId)).run()
  }

  whoseFeed(secret: string): string | null {
    return this.db.orm.select().from(calendarFeeds).where(eq(calendarFeeds.secret, secret)).get()?.personId ?? null
  }
}
