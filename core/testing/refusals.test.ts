import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { coded, NUMBERS, wrongIn } from './messages'
import { sayProblem } from '../language/problems'
import '../language/refusals/of-server'
import { FILE_REFUSALS } from '../language/refusals/files'
import { RECORD_REFUSALS } from '../language/refusals/records'
import { SETTING_REFUSALS } from '../language/refusals/settings'
import { refusalCodes, sayRefusal, type Refusal } from '../language/refusals'

const KINDS = ['deal', 'contact', 'company', 'appointment', 'none'] as const
const none = [{}]
const raw = [{ raw: 'plenty' }, { raw: 'x'.repeat(200) }]
const said = [{ said: 'Something is wrong.' }]
const field = [{ field: 'Margin' }]
const kinds = KINDS.map((object) => ({ object }))
const ofKind = kinds.flatMap(({ object }) => NUMBERS.map((id) => ({ object, id })))
const cannot = ['archived', 'removed', 'deleted', 'changed'] as const

/** Every refusal with every number and kind of record, by code. */
const REFUSED: Parameters<typeof coded<Refusal>>[0] = {
  notPlainNumber: [
    { raw: '12 %', plain: '12' },
    { raw: 'a lot', plain: null },
  ],
  emptyRange: raw,
  noBrackets: [{ from: '1', to: '5' }],
  severalRanges: none,
  otherThanRange: none,
  oneOrSeveral: [{ raw: '2,500' }],
  openList: none,
  noOrderOfTexts: raw,
  noQuotes: raw,
  openEnd: none,
  notFixed: raw,
  notText: [{ raw: '"\\x"' }],
  notDay: [{ raw: '“2026-13-01”' }],
  noRanges: [{ kinds: 'texts' }],
  rangeEnds: [{ one: 'a number' }],
  rangeForm: none,
  rangeOpen: none,
  rangeOfNone: none,
  nullAmong: none,
  otherKind: [{ kinds: 'numbers', one: 'a number' }],
  notOfField: [{ raw: '“Lisbon”', field: 'Country' }],
  emptyToo: none,
  rangesInCell: none,
  openNot: none,
  notUnderstood: raw,

  atLine: NUMBERS.map((n) => ({ line: n, column: n, said: 'Something is wrong.' })),
  nestedTooDeep: NUMBERS.map((n) => ({ line: n, most: n })),
  anchors: none,
  notCalendar: said,
  entry: said,
  shape: [
    { at: 'steps.0', said: 'Missing.' },
    { at: '', said: 'Missing.' },
  ],
  noDocumentTypes: none,
  noDefinitions: none,
  otherLanguage: [{ language: 'Speech' }],
  foreignPart: [{ part: 'invocation' }],
  noDecision: none,
  severalDecisions: [{ number: 2 }, { number: 1000 }],
  noTable: none,
  hitPolicy: [{ policy: 'PRIORITY' }],
  aggregation: [{ aggregation: 'MEDIAN' }],
  aggregationOf: [{ aggregation: 'SUM', policy: 'FIRST' }],
  aggregatesNumbers: [{ aggregation: 'SUM', output: 'Tier' }],
  crossTable: none,
  inputField: KINDS.flatMap((object) => NUMBERS.map((input) => ({ object, input, raw: 'deal.colour' }))),
  inputType: NUMBERS.map((input) => ({ input, given: 'string', field: 'Margin', type: 'number' })),
  outputType: NUMBERS.map((output) => ({ output, given: 'duration' })),
  rowLength: NUMBERS.map((n) => ({ row: n, cells: n, results: n, inputs: n, outputs: n })),
  inCell: NUMBERS.map((n) => ({ row: n, part: 'input', number: n, said: 'The list is not closed.' })),
  noSuchInput: none,
  onlyFixed: (['text', 'number', 'yesNo'] as const).map((type) => ({ type, raw: 'today()' })),
  dateFirst: none,
  tooManyDays: NUMBERS.map((most) => ({ most })),
  notCurrency: NUMBERS.map((column) => ({ column, raw: 'Euros' })),
  noOwnCurrency: [{ currency: 'CAD' }],
  rateDay: NUMBERS.map((line) => ({ line, raw: 'soon' })),
  rateTwice: NUMBERS.map((line) => ({ line, day: '2026-11-24' })),
  notRate: NUMBERS.map((line) => ({ line, currency: 'CAD', raw: 'much' })),
  caseMoment: [{ at: 'start', raw: 'soon' }],
  caseEnd: none,
  caseLink: [{ from: 'deal 1', to: 'deal 2' }],
  caseStart: NUMBERS.map((line) => ({ line, rule: 'Sign off' })),
  inCase: [{ at: 'records: deal 1, amount', said: '“much” is not a number.' }],

  recordGone: ofKind,
  thisRecordGone: none,
  mergeItself: none,
  mergeSame: field,
  wasNotDeleted: ofKind,
  restoreFirst: [{ record: 'Arden Roofing' }],
  tooManyLinked: [{ most: 200 }],
  tooFarBack: NUMBERS.map((days) => ({ from: '24 Nov 2026', days })),
  noSubject: none,
  messageOfOther: NUMBERS.map((id) => ({ id })),
  contactWithoutAddress: [{ said: 'There is no email address.' }],
  notSent: [{ said: 'Nothing is sent to this address' }],
  answerGone: NUMBERS.map((id) => ({ id })),
  automaticReply: none,
  messageGone: none,
  timeTaken: none,
  appointmentOver: none,
  activityRefused: said,
  activityColumns: none,
  activityKind: [{ raw: 'dance', kinds: ['visit', 'call'] }],
  noActivity: [{ name: 'tasting' }],
  activityOfNone: none,
  activityAhead: none,
  notNumberOf: KINDS.map((object) => ({ object, raw: 'seven' })),
  notValues: [{ raw: '[1]' }],
  notReachable: [{ raw: 'nowhere' }],
  noneHas: KINDS.map((object) => ({ object, value: 'x@y.example' })),
  ruleNotOn: none,
  fieldGone: none,

  formula: NUMBERS.map((from) => ({ from, to: from + 1, said: 'Something is missing here.' })),
  unreadFormula: said,
  endBeforeStart: none,
  noSuchQuestion: none,
  leastPoints: none,
  noTimeGiven: field,
  timeRepeats: field,
  recurrence: [{ said: 'This date never occurs.' }],
  noSlash: none,
  notJson: [{ said: 'something is missing' }],
  sameReading: none,
  noStepsToPaste: none,
  cannotPaste: [{ said: 'there are too many' }],
  stepNotFor: kinds,

  sameName: (['template', 'field', 'pipeline', 'segment', 'scorecard', 'synonymSet'] as const).map((of) => ({
    of,
    name: 'Fit',
  })),
  noMoreThan: (
    ['template', 'field', 'choice', 'pipeline', 'stage', 'segment', 'scorecard', 'activityKind'] as const
  ).map((of) => ({ of, most: 200 })),
  twice: [{ of: 'choice' }, { of: 'stage' }],
  inUse: cannot.map((one) => ({ name: 'Fit tier', cannot: one, by: { rules: ['X', 'Y'] } })),
  noChoices: field,
  firstChoice: none,
  lastChoice: none,
  otherChoice: none,
  choiceThere: [{ choice: 'Large' }],
  noSuchChoice: [{ choice: 'Large' }],
  choiceHeld: NUMBERS.map((records) => ({ records })),
  systemField: [
    { field: 'Name', cannot: 'be archived' },
    { field: 'Name', cannot: 'change its type' },
  ],
  fixedField: field,
  noSuchField: field,
  onlyForStage: none,
  sameType: field,
  notConverted: NUMBERS.map((records) => ({ records, example: 'x', said: '“x” is not a number.' })),
  nowInField: none,
  noFieldOf: [{ gives: 'a list' }],
  fieldTypes: [1, 2, 5].map((n) => ({
    gives: 'a number',
    types: ['number', 'money', 'percent', 'text', 'date'].slice(0, n),
  })),
  typeMustBe: [{ type: 'number' }],
  circularReference: [{ fields: ['this field', 'Margin', 'this field'] }],
  rollUpOver: KINDS.map((object) => ({ object, over: 'deal' as const })),
  sortable: none,
  chooseField: none,
  rollUpOf: [{ what: 'total' }],
  keepsMaking: field,
  stageThere: [{ pipeline: 'Hire', stage: 'Sized' }],
  notThere: [{ name: 'Sized' }],
  lastStage: none,
  otherStage: none,
  stageHeld: NUMBERS.map((deals) => ({ deals })),
  whichPipeline: none,
  noSuchPipeline: [{ pipeline: 'Hire' }],
  territoryTwice: [{ name: 'North' }],
  cannotCover: [{ person: 'rosa', territory: 'North' }],
  closesBeforeOpening: none,
  listedTwice: [{ what: '24 Dec 2026' }],
  asksItself: [{ segment: 'Large' }],
  segmentUsed: (['segment', 'territory', 'scorecard', 'field'] as const).map((by) => ({ by, name: 'Large' })),
  noScoresOf: none,
  ownActivity: kinds,
  mostAboveLeast: none,
  bandOrder: [{ band: 'Hot' }],
  idTwice: [{ id: 'l1' }],
  noPoints: none,
  spellingTwice: [{ spelling: 'PT', first: 'Portugal', second: 'Part time' }],
  synonymsUsed: KINDS.map((object) => ({ field: 'Country', object })),
  notATextField: field,
  synonymsOfNames: none,
  noSynonyms: none,
  ownCurrency: [{ currency: 'EUR' }],
  currencyUnused: [{ currency: 'CAD' }],
  future: [{ day: '24 Dec 2026' }],
  rateAboveZero: none,
  keepsChannel: none,
  notATimeZone: [{ zone: 'Lisbon' }],
  standsTwice: [{ what: 'Portugal' }],
  teamHasAddress: [{ team: 'Hire' }],
  activityThere: [{ name: 'visit' }],
  mostValues: NUMBERS.map((most) => ({ most })),
  notAKey: [{ key: 'A b' }],
  keyThere: [{ key: 'about' }],
  noLabel: none,
  keepsType: [{ value: 'Rooms' }],
  noSuchActivity: none,
  activityTells: [{ key: 'rooms' }],
  matchAmongFilled: none,
  noSuchRule: none,
  emailOf: [{ person: 'Vera Lima' }],
  emailTaken: none,
}
/** Those are told in the middle of a sentence, or name their place in a file first. */
const WITHIN = [
  'noneHas',
  'ruleNotOn',
  'fieldGone',
  'caseMoment',
  'caseEnd',
  'caseLink',
  'caseStart',
  'inCase',
  'circularReference',
]

const SHOWING = ['nullAmong', 'noBrackets', 'rangeForm']

describe('refusals', () => {
  it.each(coded<Refusal>(REFUSED).map((refusal) => [refusal.code, refusal] as const))('%s', (code, refusal) => {
    const text = sayRefusal(refusal)
    // They show how a word or a range is written.
    if (!SHOWING.includes(code)) expect([text, wrongIn(text)]).toEqual([text, null])
    if (!WITHIN.includes(code)) expect(text).toMatch(/\.$/)
    expect(sayProblem(refusal)).toBe(text)
  })
  it('are each said here with facts', () => {
    expect(Object.keys(REFUSED).sort()).toEqual([...refusalCodes()].sort())
    for (const [code, facts] of Object.entries(REFUSED)) expect([code, facts.length]).not.toEqual([code, 0])
  })
  it('count what they tell of', () => {
    const held = (records: number) => sayRefusal({ code: 'choiceHeld', records })
    expect(held(1)).toBe('1 record has this choice. Choose a replacement.')
    expect(held(1000)).toBe('1,000 records have this choice. Choose a replacement.')
    expect(sayRefusal({ code: 'stageHeld', deals: 1 })).toBe('1 deal is in this stage. Choose where to move it.')
    expect(sayRefusal({ code: 'rowLength', row: 1, cells: 1, results: 2, inputs: 2, outputs: 1 })).toBe(
      'Row 1: 1 cell and 2 results for 2 inputs and 1 result.',
    )
  })

  it('are only used where their words are at hand: a page would show the code itself', () => {
    const handedIn = Object.keys({ ...FILE_REFUSALS, ...RECORD_REFUSALS, ...SETTING_REFUSALS })
    // Asked by the server, by the screen of scorecards, and by what reads a whole file: they have all.
    const among = ['core/derived/roll-up.ts', 'core/scoring/scorecard.ts', 'core/formats/dmn-cell.ts']
    const without = readdirSync('core', { recursive: true, encoding: 'utf8' })
      .map((file) => `core/${file}`)
      .filter((file) => /(?<!\.test)\.ts$/.test(file) && !file.includes('/refusals/') && !among.includes(file))
      .filter((file) => {
        const text = readFileSync(file, 'utf8')
        return handedIn.some((code) => text.includes(`code: '${code}'`)) && !text.includes('refusals/of-server')
      })
    expect(without).toEqual([])
  })
})
