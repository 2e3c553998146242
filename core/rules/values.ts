import { z } from 'zod'
import type { Value } from '../fields/value'
import { LONG_TEXT_MOST } from '../fields/types/text'

/** A value as it may stand in a document; whether it fits its field is checked with the catalogue at hand. */
export const zValue: z.ZodType<Value> = z.union([
  z.string().max(LONG_TEXT_MOST),
  z.number(),
  z.boolean(),
  z.null(),
  z.array(z.string().max(500)).max(500),
])
