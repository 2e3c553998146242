import { z } from 'zod'
import { OBJECTS } from '../records/kinds'
import { readPath } from './json'

/** What becomes of a request that comes in: by what it is told apart, and what of it goes where. */

const zPath = z
  .string()
  .trim()
  .min(1)
  .max(300)
  .refine((path) => readPath(path) !== null, 'is no path such as $.person.email')
const zKey = z.string().min(1).max(100)
const zPair = z.strictObject({ key: zKey, path: zPath })
const zPairs = z.array(zPair).max(50)

export const zInto = z
  .discriminatedUnion('to', [
    /** A record is created, or the one whose field holds the same is changed. */
    z.strictObject({
      to: z.literal('record'),
      object: z.enum(OBJECTS),
      match: zKey.describe('field by which an existing record is found'),
      fields: zPairs.min(1),
    }),
    /** Somebody did something. */
    z.strictObject({
      to: z.literal('activity'),
      kind: zKey,
      email: zPath.describe('where the email address of the contact stands'),
      about: z.union([z.literal(''), zPath]),
      data: zPairs,
    }),
    /** A rule is run by hand, for the record whose field holds what stands at a place. */
    z.strictObject({
      to: z.literal('rule'),
      rule: z.int().positive(),
      object: z.enum(OBJECTS),
      match: zKey,
      path: zPath,
      answers: zPairs,
    }),
  ])
  .meta({ id: 'Into' })
export type Into = z.infer<typeof zInto>

/** `secret`: a bearer token. `signature`: Standard Webhooks. */
export const VERIFY = ['secret', 'signature'] as const
export type Verify = (typeof VERIFY)[number]
