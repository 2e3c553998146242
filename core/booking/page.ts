import { z } from 'zod'

/** A kind of appointment that people book by themselves, on a page of its own. */

/** Whom it is with: the contact’s owner where there is one, or whoever of the people has the fewest. */
export const BOOKED_WITH = ['owner', 'turn'] as const

const NAME_MOST = 80
const TEXT_MOST = 1000
/** The longest appointment, in minutes. */
const MINUTES_MOST = 600

export const zBookingPage = z.strictObject({
  name: z.string().trim().min(1, 'Missing.').max(NAME_MOST),
  text: z.string().trim().max(TEXT_MOST).describe('shown above the times'),
  place: z.string().trim().max(200).describe('address, or link of the call'),
  minutes: z.int().min(5).max(MINUTES_MOST).describe('length'),
  noticeHours: z.int().min(0).max(720).describe('how long before at the least'),
  bufferMinutes: z.int().min(0).max(240).describe('free time before and after'),
  daysAhead: z.int().min(1).max(180).describe('how far ahead at the most'),
  with: z.enum(BOOKED_WITH),
  people: z.array(z.string().min(1).max(60)).min(1, 'Choose at least one person.').max(50),
  open: z.boolean().describe('whether it can be booked'),
})
export type GivenBookingPage = z.infer<typeof zBookingPage>

export interface BookingPage extends GivenBookingPage {
  /** Where it is: `/book/<slug>`. */
  readonly slug: string
}
