import { upgradeRule } from '../rules/upgrade'
import { z } from 'zod'
import { FIELD_TYPES } from '../fields/types'
import { zValue } from '../language/value'
import { readYaml } from '../formats/yaml'
import { bad, good, type Result } from '../language/problems'
import { OBJECTS } from '../records/kinds'
import { zActivityName } from '../activities'
import { isZone } from '../rules/clock'
import type { RuleDocument } from '../rules/document'
import { zRule } from '../rules/schema'
import type { FieldTypeName } from '../language/field-types'

/**
 * A rehearsal as a file: fields, people, records, rules, a moment to begin at, what is assumed to happen, and what is
 * expected to come of it. Needs no server and no database.
 */

const zMoment = z
  .string()
  .max(40)
  .describe('date and time, for example 2026-11-24T09:30, in the time zone of the file or with an offset')
const zRecordName = z.string().regex(/^(deal|contact|company) \d+$/, 'is not a record such as “deal 1”')
const zKey = z.string().regex(/^[a-z][A-Za-z\d]*$/)
const zHour = z.string().regex(/^\d{1,2}:\d{2}$/, 'is not a time such as 9:00')

const zField = z.strictObject({
  object: z.enum(OBJECTS),
  key: zKey,
  label: z.string().min(1).max(200),
  type: z.enum(Object.keys(FIELD_TYPES) as [FieldTypeName, ...FieldTypeName[]]),
  choices: z
    .array(z.union([z.string(), z.strictObject({ id: z.string(), label: z.string() })]))
    .optional()
    .describe('names, whose ids are made of them; or ids with names'),
  formula: z.string().max(2000).optional().describe('its formula; the field is read-only then'),
})
const zPipeline = z.strictObject({
  id: z.string(),
  name: z.string(),
  stages: z
    .array(z.strictObject({ id: z.string(), name: z.string(), outcome: z.enum(['open', 'won', 'lost']) }))
    .min(1),
})
const zPerson = z.strictObject({
  id: zKey,
  name: z.string().optional(),
  team: z.string().optional(),
  zone: z.string().refine(isZone, 'is not a time zone').optional(),
  awayFrom: z.iso.date().optional(),
  awayTo: z.iso.date().optional(),
  deputy: zKey.optional(),
  active: z.boolean().optional(),
})
const zExpect = z.strictObject({
  starts: z
    .array(
      z.strictObject({
        rule: z.string().optional().describe('the name of the rule, where there are several'),
        record: zRecordName,
        at: zMoment,
      }),
    )
    .optional()
    .describe('runs that met the conditions, in order'),
  tasks: z
    .array(
      z.strictObject({
        record: zRecordName.optional(),
        title: z.string(),
        at: zMoment.optional(),
        due: z.iso.date().optional(),
        who: z.string().optional(),
      }),
    )
    .optional()
    .describe('every task, in order'),
  states: z
    .array(z.string())
    .optional()
    .describe('how each of these runs stands at the end: done, waiting, failed, or why it ended'),
})

export const zCase = z.strictObject({
  format: z.literal(1),
  name: z.string().min(1).max(300),
  /** Where what it expects comes from, where that is a standard or another source. */
  source: z.string().max(1000).optional(),
  zone: z.string().refine(isZone, 'is not a time zone of the IANA database'),
  start: zMoment,
  until: zMoment.optional().describe('end; or use `clock`'),
  clock: z
    .array(z.strictObject({ to: zMoment, down: z.boolean().default(false).describe('simulates downtime until then') }))
    .min(1)
    .optional(),
  workdays: z.array(z.int().min(1).max(7)).min(1).default([1, 2, 3, 4, 5]),
  hours: z.strictObject({ opens: zHour, closes: zHour }).default({ opens: '9:00', closes: '17:00' }),
  holidays: z.array(z.iso.date()).default([]),
  teams: z
    .array(
      z.strictObject({
        team: z.string(),
        workdays: z.array(z.int().min(1).max(7)).min(1),
        hours: z.strictObject({ opens: zHour, closes: zHour }),
        holidays: z.array(z.iso.date()).default([]),
      }),
    )
    .optional()
    .describe('teams that work at other hours'),
  people: z.array(zPerson).default([]),
  fields: z.array(zField).default([]).describe('beside those that every workspace begins with'),
  pipelines: z.array(zPipeline).min(1).optional().describe('in place of the one that every workspace begins with'),
  records: z
    .array(z.strictObject({ record: zRecordName, values: z.record(z.string(), zValue).default({}) }))
    .default([]),
  links: z.array(z.strictObject({ from: zRecordName, to: zRecordName, main: z.boolean().default(true) })).default([]),
  only: z
    .array(zRecordName)
    .min(1)
    .optional()
    .describe('the records that take part; the others are only there. All, when left out'),
  rules: z.array(zRule).min(1),
  script: z
    .array(
      z.strictObject({
        at: zMoment,
        record: zRecordName.optional().describe('each of the records when left out'),
        object: z.enum(OBJECTS).optional(),
        set: z.record(z.string(), zValue).optional(),
        create: z.record(z.string(), zValue).optional(),
        delete: z.literal(true).optional(),
        start: z.string().optional().describe('the name of a rule that someone runs for the record'),
        link: zRecordName.optional().describe('a record that is linked to it'),
        unlink: zRecordName.optional().describe('a record that is linked to it no longer'),
        finish: z.string().optional().describe('how the title of a task begins that someone finishes'),
        outcome: z.string().optional().describe('what came of it'),
        does: zActivityName.optional().describe('what someone does'),
        about: z.string().optional().describe('the page, the form or the subject of what someone does'),
        data: z
          .record(z.string(), zValue)
          .optional()
          .describe('what else is told of it, by the keys of its kind; for a task, what was answered'),
      }),
    )
    .default([]),
  expect: zExpect.optional(),
})
export type Case = z.infer<typeof zCase>

/** The published schema of case files (JSON Schema, draft 2020-12). */
export const caseSchema = (): object => ({
  ...z.toJSONSchema(zCase, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' }),
  $id: 'urn:sky-lever:case:1',
  title: 'Case',
  description: 'A rehearsal with its own records and expected results.',
})

/** The rules of a case in the format of now, or those that are given in their place. */
function withRules(given: unknown, rules: readonly RuleDocument[] | undefined): unknown {
  if (typeof given !== 'object' || given === null) return given
  if (rules) return { ...given, rules }
  return 'rules' in given && Array.isArray(given.rules) ? { ...given, rules: given.rules.map(upgradeRule) } : given
}

/**
 * Reads YAML or JSON; refuses with the line or the path, and the reason. With `rules`, those are its rules, whatever
 * the text says.
 */
export function readCase(text: string, rules?: readonly RuleDocument[]): Result<Case> {
  const given = readYaml(text)
  if (!given.ok) return given
  const read = zCase.safeParse(withRules(given.value, rules))
  if (read.success) return good(read.data)
  const issue = read.error.issues[0]
  return bad({ code: 'shape', at: issue?.path.join('.') || 'case', said: issue?.message ?? 'is not valid' })
}
