import { z } from 'zod'
import { foldText } from '../language/value'
import { ANSWER_KINDS, USUAL_PHRASES } from './answer-kind'
import type { DecentHours } from './hours'

/** How messages to customers are sent: what is set once for the workspace. */

const zMinute = z.int().min(0).max(1440)
const zHours = z
  .strictObject({ from: zMinute, to: zMinute, days: z.array(z.int().min(1).max(7)).min(1).max(7) })
  .refine(({ from, to }) => to > from, { path: ['to'], message: 'The end must be later than the beginning.' })

const zCountry = z.strictObject({
  /** As it stands in companies. */
  name: z.string().trim().min(1).max(80),
  /** The zone of whoever has none of their own; `null` for the workspace’s. */
  zone: z.string().max(60).nullable(),
  hours: zHours,
})

export const zSender = z.strictObject({
  team: z.string().trim().min(1).max(100),
  name: z.string().trim().min(1).max(100),
  address: z.email().max(200),
})

export const zMessaging = z.strictObject({
  hours: zHours,
  countries: z.array(zCountry).max(100),
  /** Addresses of teams that messages may come from. */
  senders: z.array(zSender).max(50),
  /** At most so many messages to one person in 24 hours, and of one rule in an hour. */
  personDay: z.int().min(1).max(50),
  ruleHour: z.int().min(1).max(100_000),
  /** What tells what kind of answer something is, in the order in which the kinds are tried. */
  phrases: z.strictObject(
    Object.fromEntries(ANSWER_KINDS.map((kind) => [kind, z.array(z.string().trim().min(1).max(100)).max(200)])) as {
      [K in (typeof ANSWER_KINDS)[number]]: z.ZodArray<z.ZodString>
    },
  ),
})
export type Messaging = z.infer<typeof zMessaging>
export type Country = Messaging['countries'][number]

/** What stands where nobody has said otherwise: from eight to eight, not on Sundays. */
export const USUAL_MESSAGING: Messaging = {
  hours: { from: 480, to: 1200, days: [1, 2, 3, 4, 5, 6] },
  countries: [],
  senders: [],
  personDay: 2,
  ruleHour: 500,
  phrases: USUAL_PHRASES,
}

/** The row of a country; `null` where there is none. */
export const countryOf = ({ countries }: Messaging, name: unknown): Country | null =>
  typeof name === 'string' ? (countries.find((one) => foldText(one.name) === foldText(name)) ?? null) : null

/** The hours in a country. */
export const hoursIn = (messaging: Messaging, country: unknown): DecentHours =>
  countryOf(messaging, country)?.hours ?? messaging.hours
