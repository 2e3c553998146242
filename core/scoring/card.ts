import { z } from 'zod'
import { zGroup, zId, type Group } from '../conditions/document'
import { zActivityName, type ActivityName } from '../activities'
import type { ObjectKind } from '../records/kinds'
/** A scorecard as it is kept: points for what records are and for what people do. */

/** Scorecards: points for what records are and for what people do. */

/** How the points of something that happened grow less: by half every so many days, or gone after so many. */
export type Fading =
  | { readonly how: 'never' }
  | { readonly how: 'half'; readonly days: number }
  | { readonly how: 'gone'; readonly days: number }

export interface ScoreLine {
  readonly id: string
  /** For each time; below 0 they are taken off. */
  readonly points: number
  /** How far the line alone goes, whichever way its points do; `null` for no end. */
  readonly most: number | null
  readonly for:
    | { readonly what: 'being'; readonly where: Group }
    /** `from` its linked records of a kind; its own, when `null`. */
    | {
        readonly what: 'doing'
        readonly kind: ActivityName
        readonly about: string
        readonly from: 'contact' | 'deal' | null
        readonly fading: Fading
      }
}

export interface Band {
  readonly id: string
  readonly name: string
  /** The fewest points in it; the lowest band begins wherever. */
  readonly from: number
}

/** The key of the field that holds the band of a score. */
export const bandField = (key: string): string => `${key}Band`

export interface Scorecard {
  readonly id: number
  readonly object: ObjectKind
  readonly name: string
  /** The key of the field that holds the points; `bandField` names that of the band. */
  readonly key: string
  readonly lines: readonly ScoreLine[]
  readonly least: number | null
  readonly most: number | null
  /** From the lowest to the highest. */
  readonly bands: readonly Band[]
}

export const LINES_MOST = 50

export const BANDS_MOST = 10

const zPoints = z.number().min(-1000).max(1000)

const zDays = z.int().min(1).max(3650)

export const zFading = z.discriminatedUnion('how', [
  z.strictObject({ how: z.literal('never') }),
  z.strictObject({ how: z.literal('half'), days: zDays }),
  z.strictObject({ how: z.literal('gone'), days: zDays }),
])

export const zLine = z.strictObject({
  id: zId,
  points: zPoints,
  most: z.number().min(0).max(100_000).nullable(),
  for: z.discriminatedUnion('what', [
    z.strictObject({ what: z.literal('being'), where: zGroup }),
    z.strictObject({
      what: z.literal('doing'),
      kind: zActivityName,
      about: z.string().max(200),
      from: z.enum(['contact', 'deal']).nullable(),
      fading: zFading,
    }),
  ]),
})

export const zBand = z.strictObject({
  id: zId,
  name: z.string().trim().min(1).max(60),
  from: z.number().min(-100_000).max(100_000),
})

export const zCard = z.strictObject({
  name: z.string().trim().min(1).max(60),
  lines: z.array(zLine).max(LINES_MOST),
  least: z.number().min(-100_000).max(100_000).nullable(),
  most: z.number().min(-100_000).max(100_000).nullable(),
  bands: z.array(zBand).max(BANDS_MOST),
})

export type GivenCard = z.infer<typeof zCard>
