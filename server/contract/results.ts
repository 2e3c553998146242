import { z } from 'zod'
import { BREAKDOWNS } from '../../core/results/figures'
import { LISTED_FIGURES } from '../../core/results/figure-names'
import { contract, zId, zIdParam, zOk, zPersonId } from './contract'

export const results = {
  'GET /results': contract({
    section: 'Screens',
    does: 'List what each rule came to: runs, target, tasks, messages',
  }),
  'GET /rules/:id/results': contract({
    section: 'Screens',
    does: 'Get what a rule came to, with 95 % intervals',
    params: zIdParam,
  }),
  'GET /rules/:id/results/records': contract({
    section: 'Screens',
    does: 'List the records behind a figure',
    params: zIdParam,
    query: z.object({
      figure: z.enum(LISTED_FIGURES),
      alone: z.enum(['true', 'false']).default('false').describe('those left alone'),
      of: z.string().max(40).default('').describe('for `answer` its kind, for `call` its outcome'),
      by: z.enum(BREAKDOWNS).optional().describe('only within one value of this'),
      value: z
        .string()
        .max(200)
        .default('')
        .describe('that value: a person, a version’s number, a month such as 2026-11'),
      cursor: z.string().max(200).optional(),
    }),
  }),
  'GET /rules/:id/results/file': contract({
    section: 'Screens',
    does: 'Download every figure of a rule',
    params: zIdParam,
    media: 'text/csv',
  }),
  'GET /problems': contract({
    section: 'Screens',
    does: 'List what needs someone, by kind',
  }),
  'POST /problems/:id': contract({
    section: 'Screens',
    does: 'Say who looks at a problem, accept it until a day, or try everything it concerns again',
    params: zIdParam,
    body: z.discriminatedUnion('act', [
      z.strictObject({ act: z.literal('assign'), person: zPersonId.nullable() }),
      z.strictObject({
        act: z.literal('accept'),
        days: z.int().min(1).max(365).nullable().describe('null to stop accepting it'),
      }),
      z.strictObject({ act: z.literal('again') }),
    ]),
    answer: z.strictObject({ tried: z.number().int(), done: z.number().int() }),
  }),
  'GET /suggestions': contract({
    section: 'Screens',
    does: 'List what people do again and again, and the search for it',
  }),
  'POST /suggestions': contract({
    section: 'Screens',
    does: 'Begin the search for suggestions, or stop it',
    body: z.strictObject({ act: z.enum(['begin', 'stop']) }),
    answer: zOk,
  }),
  'POST /suggestions/:id': contract({
    section: 'Screens',
    does: 'Make a draft rule of a suggestion, or never suggest it again',
    params: zIdParam,
    body: z.strictObject({ act: z.enum(['make', 'dismiss']) }),
    answer: z.strictObject({ ruleId: zId.nullable() }),
  }),
  'GET /overview': contract({
    section: 'Screens',
    does: 'Get what needs someone, what is ahead, and what came of rules',
  }),
  'POST /overview-visits': contract({
    section: 'Screens',
    does: 'Note that you looked at the overview',
    answer: zOk,
  }),
  'GET /team': contract({
    section: 'Screens',
    does: 'List who has how much to do, with late tasks',
  }),
  'POST /task-hand-overs': contract({
    section: 'Tasks',
    does: 'Hand several open tasks over to someone',
    more: 'Tasks that are no longer open, or that you can’t see, stay as they are.',
    body: z.strictObject({ ids: z.array(zId).min(1).max(200), person: zPersonId }),
    answer: z.strictObject({ handedOver: z.number().int() }),
  }),
}
