import { z } from 'zod'
import { zGroup, type Group } from '../conditions/document'
import { OBJECTS, type ObjectKind } from '../records/kinds'

/** How a value comes about that nobody writes. */

export const ROLL_UPS = ['count', 'sum', 'least', 'most', 'earliest', 'latest', 'first'] as const
export type RollUpKind = (typeof ROLL_UPS)[number]

/** A value over the linked records of a kind. */
export interface RollUp {
  readonly over: ObjectKind
  readonly what: RollUpKind
  /** The field that is summed, compared or taken; `null` where they are counted. */
  readonly field: string | null
  /** For "first": the field that says which is first; `null` for the oldest record. */
  readonly order: string | null
  /** Whether the greatest of those comes first. */
  readonly down: boolean
  /** Which of them count. */
  readonly where: Group
}

export type Making =
  | { readonly by: 'formula'; readonly text: string }
  | ({ readonly by: 'rollUp' } & RollUp)
  /** Kept by a scorecard. */
  | { readonly by: 'score'; readonly card: number; readonly part: 'points' | 'band' }
  /** Whether the record is in a segment; no field that anybody sees. */
  | { readonly by: 'segment'; readonly segment: number; readonly where: Group }

export const zRollUp = z.strictObject({
  over: z.enum(OBJECTS),
  what: z.enum(ROLL_UPS),
  field: z.string().max(100).nullable(),
  order: z.string().max(100).nullable(),
  down: z.boolean(),
  where: zGroup,
})
