import { expect, it } from 'vitest'
import { z } from 'zod'
import './issues'

const said = (schema: z.ZodType, given: unknown): string | undefined =>
  schema.safeParse(given).error?.issues[0]?.message

it.each<[z.ZodType, unknown, string]>([
  [z.strictObject({ name: z.string() }), {}, 'Missing.'],
  [z.string(), 7, 'Must be text.'],
  [z.number(), '7', 'Must be a number.'],
  [z.boolean(), 'yes', 'Must be true or false.'],
  [z.array(z.string()), 'a', 'Must be a list.'],
  [z.strictObject({}), { colour: 1 }, 'Unknown key “colour”.'],
  [z.strictObject({}), { colour: 1, size: 2 }, 'Unknown keys “colour”, “size”.'],
  [z.enum(['on', 'off']), 'perhaps', 'Must be on or off.'],
  [z.literal(2), 1, 'Must be 2.'],
  [z.enum(['on', 'off']), undefined, 'Missing.'],
  [z.union([z.string(), z.number()]), true, 'Has none of the allowed forms.'],
  [z.union([z.string(), z.number()]), undefined, 'Missing.'],
  [z.string().max(500), 'x'.repeat(501), 'Must be 500 characters at most.'],
  [z.string().min(1), '', 'Must be at least 1 character.'],
  [z.array(z.number()).max(2), [1, 2, 3], 'Must be 2 items at most.'],
  [z.number().min(1), 0, 'Must be at least 1.'],
  [z.number().max(100), 101, 'Must be 100 at most.'],
  [z.int(), 1.5, 'Must be a whole number.'],
  [z.email(), 'nobody', 'Has the wrong format.'],
  [z.string('Name it.'), 1, 'Name it.'],
])('%# refuses in words', (schema, given, words) => {
  expect(said(schema, given)).toBe(words)
})
