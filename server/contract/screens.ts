import { zAsks } from './asks'
import { z } from 'zod'
import { FIELD_TYPE_NAMES } from '../../core/language/field-types'
import { ROLES } from '../../core/fields/field'
import { zDefinition, zPipeline } from './definitions'
import { zAboutRef, zId, zInstant, zObject, zPersonId, zRef, zValues } from './contract'

/** What routes of single screens answer: described like all others, and free to change with their screen. */

const zCount = z.number().int()
const zNamed = z.strictObject({ id: zId, name: z.string() })
const zRow = z.strictObject({ id: zId, values: zValues })

export const zLedger = z.strictObject({
  total: zCount.describe('records you can see'),
  matched: zCount.describe('of those, how many the filter matches'),
  rows: z.array(zRow),
})

export const zBoard = z.strictObject({
  stages: z.array(
    z.strictObject({
      stage: zPipeline.shape.stages.element,
      count: zCount,
      sum: z.number().describe('in the workspace currency'),
      sums: z.array(z.strictObject({ currency: z.string(), sum: z.number() })).describe('by currency'),
      without: zCount.describe('amounts without a rate'),
      ages: z.array(zCount).length(4).describe('deals up to 7, 14, 30 days in the stage, and longer'),
      lines: z.array(
        z.strictObject({
          id: zId,
          name: z.string(),
          amount: z.number().nullable(),
          currency: z.string().nullable(),
          ownerId: zPersonId.nullable(),
          age: zCount.describe('whole days in the stage'),
        }),
      ),
    }),
  ),
})

export const zFound = z.strictObject({
  records: z.array(z.strictObject({ ref: zRef, name: z.string() })),
  rules: z.array(z.strictObject({ id: zId, name: z.string(), state: z.string() })),
})

export const zPipelineSheet = z.strictObject({
  pipelines: z.array(zPipeline),
  stages: z
    .record(
      z.string(),
      z.strictObject({
        deals: zCount,
        rules: z.array(z.strictObject({ ruleId: zId, name: z.string() })),
      }),
    )
    .describe('by stage ID'),
})

export const zFieldSheet = z.strictObject({
  object: zObject,
  total: zCount,
  lines: z.array(
    z.strictObject({
      field: zDefinition,
      archived: z.boolean(),
      kept: z.boolean().describe('whether it can only be renamed'),
      filled: zCount.describe('records with a value'),
      samples: z.array(z.strictObject({ text: z.string(), count: zCount })),
      madeInto: z.array(z.strictObject({ id: zId, object: zObject, label: z.string() })),
      uses: z.array(z.strictObject({ ruleId: zId, name: z.string(), state: z.string() })),
      choices: z.record(z.string(), z.strictObject({ records: zCount, rules: zCount })),
    }),
  ),
})

export const zEvidence = z.strictObject({
  total: zCount,
  matched: zCount,
  near: zCount.describe('records that fail exactly one condition'),
  alone: z.record(z.string(), zCount).describe('records each condition matches by itself, by its ID'),
  rows: z.array(zRow),
  misses: z.array(z.strictObject({ ...zRow.shape, missId: z.string(), why: z.string() })),
  inPart: z.array(z.string()).describe('triggers that may have had more'),
  started: z.record(z.string(), zCount).describe('in the last 30 days, by trigger ID'),
  kinds: z.record(z.string(), zCount).describe('the same by kind of trigger'),
  clocks: z.record(
    z.string(),
    z.strictObject({
      moments: z.array(
        z.strictObject({ atMs: zInstant, id: zId.nullable(), name: z.string(), count: zCount.nullable() }),
      ),
      looked: zCount,
      coming: zCount,
      passed: zCount,
      empty: zCount,
    }),
  ),
})

const zDayTask = z
  .strictObject({
    id: zId,
    runId: zId,
    ruleId: zId,
    stepId: z.string(),
    object: z.string(),
    recordId: zCount,
    assigneeId: zPersonId.nullable(),
    queue: z.string().nullable(),
    taskKind: z.string(),
    title: z.string(),
    notes: z.string(),
    due: z.string(),
    priority: z.string(),
    remindAt: zInstant.nullable(),
    state: z.enum(['open', 'done', 'withdrawn']),
    outcome: z.string(),
    asks: zAsks,
    because: z.string(),
    createdAt: zInstant,
    doneAt: zInstant.nullable(),
    doneBy: zPersonId.nullable(),
    ref: zAboutRef,
    recordName: z.string(),
    hidden: z.boolean().describe('whether you can’t see the record'),
    ruleName: z.string(),
    beside: z.array(z.strictObject({ ref: zRef, name: z.string() })),
    acts: z.array(z.strictObject({ atMs: zInstant, text: z.string() })),
  })
  .meta({ id: 'DayTask' })

export const zDaySheet = z.strictObject({
  personId: zPersonId,
  today: z.string(),
  open: z.array(zDayTask),
  doneToday: z.array(zDayTask),
  followed: z.array(zDayTask),
  queue: z.strictObject({ team: z.string(), tasks: z.array(zDayTask) }).nullable(),
  counts: z.array(z.strictObject({ personId: zPersonId, open: zCount })),
})

export const zMakingShown = z.strictObject({
  problem: z.strictObject({ from: zCount, to: zCount, text: z.string() }).nullable(),
  comesTo: z.string(),
  types: z.array(z.enum(FIELD_TYPE_NAMES)),
  reading: z.string().nullable(),
  looked: zCount,
  counts: z.strictObject({ above: zCount, zero: zCount, below: zCount, empty: zCount, other: zCount }),
  samples: z.array(
    z.strictObject({
      ...zNamed.shape,
      inputs: z.array(z.strictObject({ label: z.string(), text: z.string() })),
      result: z.string(),
      why: z.enum(['least', 'most', 'empty', '']),
    }),
  ),
})

export const zScorePreview = z.strictObject({
  looked: zCount,
  total: zCount,
  from: z.number(),
  step: z.number(),
  before: z.array(zCount).nullable(),
  after: z.array(zCount),
  bands: z.array(z.strictObject({ id: z.string(), name: z.string(), before: zCount.nullable(), after: zCount })),
  crossing: z.array(
    z.strictObject({ ...zNamed.shape, before: z.number(), after: z.number(), from: z.string(), to: z.string() }),
  ),
  crossings: zCount,
  lines: z.array(z.strictObject({ id: z.string(), points: z.number(), records: zCount })),
})

const zHoursFacts = {
  workdays: z.array(zCount),
  opensAt: zCount.describe('minutes from midnight'),
  closesAt: zCount,
  holidays: z.array(z.strictObject({ date: z.string(), name: z.string() })),
}

export const zCatalogue = z.strictObject({
  data: z.looseObject({
    workspace: z.looseObject({
      name: z.string(),
      zone: z.string(),
      locale: z.string(),
      currency: z.string(),
      demo: z.boolean(),
      ...zHoursFacts,
    }),
    fields: z.array(zDefinition),
    pipelines: z.array(zPipeline),
    people: z.array(
      z.looseObject({ id: zPersonId, name: z.string(), email: z.string(), role: z.enum(ROLES), active: z.boolean() }),
    ),
  }),
  me: zPersonId,
  acts: z.array(z.string()),
  live: z.string(),
  nowMs: zInstant,
  today: z.string(),
})
