import { count } from '../counts'
import { NOUNS, type CountedObject } from '../nouns'

/** What a fixed value of a file has to be. */
const FIXED = { text: 'text in quotes', number: 'number', yesNo: 'true or false' } as const

/** What a file that comes in is refused with: rules, cases, decision tables, rates and holidays. */
export const FILE_REFUSALS = {
  /** What a reader of the format says, in its own words. */
  atLine: ({ line, column, said }: { readonly line: number; readonly column: number; readonly said: string }) =>
    `Line ${line}, column ${column}: ${said}`,
  nestedTooDeep: ({ line, most }: { readonly line: number; readonly most: number }) =>
    `Line ${line}: It is nested more than ${most} levels deep.`,
  anchors: () => 'YAML anchors and aliases (&, *) are not supported.',
  notCalendar: ({ said }: { readonly said: string }) => `This is not an iCalendar file: ${said}`,
  /** An entry of a calendar file. */
  entry: ({ said }: { readonly said: string }) => said,

  noDocumentTypes: () => 'Document types are not allowed.',
  noDefinitions: () => 'The file has no definitions.',
  otherLanguage: ({ language }: { readonly language: string }) => `“${language}” is not supported. Only FEEL is.`,
  foreignPart: ({ part }: { readonly part: string }) =>
    `“${part}” is not supported. Use one decision with one decision table.`,
  noDecision: () => 'The file has no decision.',
  severalDecisions: ({ number }: { readonly number: number }) =>
    `The file has ${number} decisions; only one is supported.`,
  noTable: () => 'The decision has no table.',
  hitPolicy: ({ policy }: { readonly policy: string }) =>
    `Hit policy ${policy} is not supported. Use UNIQUE, FIRST or COLLECT.`,
  aggregation: ({ aggregation }: { readonly aggregation: string }) => `Aggregation ${aggregation} is not supported.`,
  aggregationOf: ({ aggregation, policy }: { readonly aggregation: string; readonly policy: string }) =>
    `Aggregation ${aggregation} goes with the hit policy COLLECT, and this table has ${policy}.`,
  aggregatesNumbers: ({ aggregation, output }: { readonly aggregation: string; readonly output: string }) =>
    `Aggregation ${aggregation} needs numbers, and “${output}” is not one.`,
  crossTable: () => 'Cross tables are not supported. Use one row for each rule.',
  inputField: (facts: { readonly input: number; readonly raw: string; readonly object: CountedObject }) =>
    `Input ${facts.input}: “${facts.raw}” is not a field of ${NOUNS[facts.object].many}. Write ${facts.object}.name.`,
  inputType: (facts: {
    readonly input: number
    readonly given: string
    readonly field: string
    readonly type: string
  }) => `Input ${facts.input}: ${facts.given} in the file, but ${facts.field} is ${facts.type}.`,
  outputType: ({ output, given }: { readonly output: number; readonly given: string }) =>
    `Output ${output}: type ${given} is not supported. Use string, number or boolean.`,
  rowLength: (facts: {
    readonly row: number
    readonly cells: number
    readonly results: number
    readonly inputs: number
    readonly outputs: number
  }) => {
    const given = `${count(facts.cells, 'cell')} and ${count(facts.results, 'result')}`
    return `Row ${facts.row}: ${given} for ${count(facts.inputs, 'input')} and ${count(facts.outputs, 'result')}.`
  },
  /** Something wrong in a cell, as it has been said already. */
  inCell: (facts: {
    readonly row: number
    readonly part: 'input' | 'output'
    readonly number: number
    readonly said: string
  }) => `Row ${facts.row}, ${facts.part} ${facts.number}: ${facts.said}`,
  noSuchInput: () => 'There is no such input.',
  onlyFixed: ({ type, raw }: { readonly type: keyof typeof FIXED; readonly raw: string }) =>
    `Only a fixed ${FIXED[type]} is supported, not ${raw}.`,

  /** Tests of a file with decision tables, which are written otherwise than cells. */
  openEnd: () => 'Something is missing at the end.',
  notFixed: ({ raw }: { readonly raw: string }) => `“${raw}” is not a fixed value.`,
  notText: ({ raw }: { readonly raw: string }) => `${raw} is not a text.`,
  notDay: ({ raw }: { readonly raw: string }) => `${raw} is not a date.`,
  noRanges: ({ kinds }: { readonly kinds: string }) => `A column of ${kinds} has no ranges.`,
  rangeEnds: ({ one }: { readonly one: string }) => `A range here needs ${one} at each end.`,
  rangeForm: () => 'A range is written [1..5].',
  rangeOpen: () => 'A range ends with ] or ).',
  rangeOfNone: () => 'The range contains no values.',
  nullAmong: () => 'null stands alone: “null”, or “not(null)”.',
  otherKind: ({ kinds, one }: { readonly kinds: string; readonly one: string }) =>
    `This is a column of ${kinds}, and needs ${one}.`,
  notOfField: ({ raw, field }: { readonly raw: string; readonly field: string }) =>
    `${raw} is not a value of ${field}.`,
  emptyToo: () => 'not(…) of a range also takes what is empty. Write the other range.',
  rangesInCell: () => 'Several ranges in one cell are not supported.',
  openNot: () => 'not( is not closed.',
  notUnderstood: ({ raw }: { readonly raw: string }) => `“${raw}” is not understood here.`,

  dateFirst: () => 'line 1: the first column must be “Date”.',
  tooManyDays: ({ most }: { readonly most: number }) => `No more than ${count(most, 'day')} in one file.`,
  notCurrency: ({ column, raw }: { readonly column: number; readonly raw: string }) =>
    `line 1, column ${column}: “${raw}” is not a currency code.`,
  noOwnCurrency: ({ currency }: { readonly currency: string }) =>
    `line 1: there is no column for ${currency}, the currency of this workspace.`,
  rateDay: ({ line, raw }: { readonly line: number; readonly raw: string }) => `line ${line}: “${raw}” is not a date.`,
  rateTwice: ({ line, day }: { readonly line: number; readonly day: string }) => `line ${line}: ${day} is there twice.`,
  notRate: ({ line, currency, raw }: { readonly line: number; readonly currency: string; readonly raw: string }) =>
    `line ${line}, ${currency}: “${raw}” is not a rate.`,

  /** Test cases: `at` names the part of the case. */
  caseMoment: ({ at, raw }: { readonly at: string; readonly raw: string }) => `${at}: “${raw}” is not a date and time`,
  caseEnd: () => 'until: missing end',
  caseLink: ({ from, to }: { readonly from: string; readonly to: string }) => `links: ${from} can’t be linked to ${to}`,
  caseStart: ({ line, rule }: { readonly line: number; readonly rule: string }) =>
    `script.${line}: there is no rule “${rule}” that someone runs`,
  /** Something wrong in it, as it has been said already. */
  inCase: ({ at, said }: { readonly at: string; readonly said: string }) => `${at}: ${said}`,
} as const
