import { z } from 'zod'
import { zEvidence } from './screens'
import { DMN_MOST } from '../../core/formats/dmn'
import { SEVERITIES } from '../../core/rules/preflight/finding'
import { zTable } from '../../core/tables/table'
import { contract, zId, zIdParam, zInstant, zOk } from './contract'
import { zDocument, zExisting, zPassedDays, zSeen } from './rules'

const zFinding = z
  .strictObject({
    kind: z.string(),
    severity: z
      .enum(SEVERITIES)
      .describe('`error` fails or does nothing, `warning` is probably not intended, `info` is worth knowing'),
    ruleId: zId,
    ruleName: z.string(),
    part: z.enum(['rule', 'trigger', 'condition', 'step', 'branch']).describe('what it is about'),
    id: z.string(),
    param: z.string(),
    text: z.string(),
    why: z.string(),
    fix: z.strictObject({ say: z.string(), rule: zDocument.describe('the corrected rule') }).nullable(),
    others: z.array(zId).describe('other rules involved'),
    key: z.string().describe('key for accepting it'),
    accepted: z.strictObject({ reason: z.string(), person: z.string(), atMs: zInstant }).nullable(),
  })
  .meta({ id: 'Finding' })

export const proof = {
  'GET /preflight': contract({
    section: 'Rules',
    does: 'Check all rules',
    more: 'Archived rules are left out.',
    answer: z.strictObject({ findings: z.array(zFinding) }),
  }),
  'POST /preflight': contract({
    section: 'Rules',
    does: 'Check one rule, including unsaved edits',
    body: z.strictObject({ ruleId: zId, document: zDocument }),
    answer: z.strictObject({ findings: z.array(zFinding) }),
  }),
  'POST /rules/:id/accepted-findings': contract({
    section: 'Rules',
    does: 'Accept a finding with a reason',
    params: zIdParam,
    body: z.strictObject({ key: z.string().min(1).max(2000), reason: z.string().trim().min(1).max(500) }),
    answer: zOk,
  }),
  'DELETE /rules/:id/accepted-findings': contract({
    section: 'Rules',
    does: 'Reopen a finding',
    params: zIdParam,
    query: z.object({ key: z.string().min(1).max(2000) }),
    answer: zOk,
  }),
  'POST /tables/read': contract({
    section: 'Rules',
    does: 'Import a decision table (DMN 1.3)',
    more: 'Error 422 names what is not supported.',
    body: z.strictObject({
      document: zDocument.describe('the rule that the table is for'),
      step: z.string().max(40).describe('the step it will be in'),
      text: z.string().max(DMN_MOST),
    }),
    answer: z.strictObject({ name: z.string(), table: zTable }),
  }),
  'POST /tables/write': contract({
    section: 'Rules',
    does: 'Export a decision table (DMN 1.3)',
    body: z.strictObject({ document: zDocument, step: z.string().max(40) }),
    answer: z.string(),
    media: 'application/xml',
  }),
  'POST /evidence': contract({
    section: 'Screens',
    does: 'Get evidence for a rule',
    body: z.strictObject({ document: zDocument }),
    answer: zEvidence,
  }),
  'POST /evidence/standing': contract({
    section: 'Rules',
    does: 'Count existing records a rule would run for',
    more: 'As `GET /rules/{id}/existing`, for a rule with unsaved edits.',
    body: z.strictObject({ document: zDocument, passedDays: zPassedDays }),
    answer: zExisting,
  }),
  'POST /evidence/record': contract({
    section: 'Rules',
    does: 'Check a rule’s conditions for one record',
    body: z.strictObject({ document: zDocument, id: zId.describe('the record') }),
    answer: z.strictObject({
      name: z.string(),
      holds: z.boolean(),
      seen: z.array(zSeen),
      ways: z.array(z.string()).describe('IDs of the paths it would take with its current values'),
    }),
  }),
} as const
