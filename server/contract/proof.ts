import { z } from 'zod'
import { DMN_MOST } from '../../core/formats/dmn'
import { SEVERITIES } from '../../core/rules/preflight/finding'
import { zTable } from '../../core/tables/table'
import { contract, zId, zIdParam, zInstant, zOk } from './contract'
import { zDocument, zSeen } from './rules'

const zFinding = z
  .strictObject({
    kind: z.string(),
    severity: z.enum(SEVERITIES).describe('`grave` will go wrong, `likely` is hardly meant, `note` is good to know'),
    ruleId: zId,
    ruleName: z.string(),
    part: z.enum(['rule', 'trigger', 'condition', 'step', 'branch']).describe('what it is about'),
    id: z.string(),
    param: z.string(),
    text: z.string(),
    why: z.string(),
    fix: z.strictObject({ say: z.string(), rule: zDocument.describe('the rule with it mended') }).nullable(),
    others: z.array(zId).describe('the other rules that have to do with it'),
    key: z.string().describe('what it is told apart by when it is let stand'),
    accepted: z.strictObject({ reason: z.string(), person: z.string(), atMs: zInstant }).nullable(),
  })
  .meta({ id: 'Finding' })

export const proof = {
  'GET /preflight': contract({
    section: 'Rules',
    does: 'What reading all rules together brings to light',
    more: 'Rules that are put away are left out.',
    answer: z.strictObject({ findings: z.array(zFinding) }),
  }),
  'POST /preflight': contract({
    section: 'Rules',
    does: 'The same for one rule, unsaved edits included',
    body: z.strictObject({ ruleId: zId, document: zDocument }),
    answer: z.strictObject({ findings: z.array(zFinding) }),
  }),
  'POST /rules/:id/accepted-findings': contract({
    section: 'Rules',
    does: 'Lets a finding stand, with the reason',
    params: zIdParam,
    body: z.strictObject({ key: z.string().min(1).max(2000), reason: z.string().trim().min(1).max(500) }),
    answer: zOk,
  }),
  'DELETE /rules/:id/accepted-findings': contract({
    section: 'Rules',
    does: 'Takes a finding up again',
    params: zIdParam,
    query: z.object({ key: z.string().min(1).max(2000) }),
    answer: zOk,
  }),
  'POST /tables/read': contract({
    section: 'Rules',
    does: 'Reads a decision table from a DMN 1.3 file',
    more: 'What is not covered is refused (422) by its name.',
    body: z.strictObject({
      document: zDocument.describe('the rule that the table is for'),
      step: z.string().max(40).describe('the step that will hold it'),
      text: z.string().max(DMN_MOST),
    }),
    answer: z.strictObject({ name: z.string(), table: zTable.meta({ id: 'DecisionTable' }) }),
  }),
  'POST /tables/write': contract({
    section: 'Rules',
    does: 'A decision table of a rule as a DMN 1.3 file',
    body: z.strictObject({ document: zDocument, step: z.string().max(40) }),
    answer: z.string(),
    media: 'application/xml',
  }),
  'POST /evidence': contract({
    section: 'Screens',
    does: 'What a rule comes to on the records that are there, unsaved edits included',
    body: z.strictObject({ document: zDocument }),
  }),
  'POST /evidence/record': contract({
    section: 'Rules',
    does: 'Each condition of a rule with what it sees on one record now, unsaved edits included',
    body: z.strictObject({ document: zDocument, id: zId.describe('the record') }),
    answer: z.strictObject({
      name: z.string(),
      holds: z.boolean(),
      seen: z.array(zSeen),
      ways: z.array(z.string()).describe('the paths that it would go with the values it has now, by their ids'),
    }),
  }),
} as const
