import { describe, expect, it } from 'vitest'
import { coded, NUMBERS, wrongIn } from './messages'
import { denialCodes, sayDenial, type Denial } from '../language/answers'

const KINDS = ['deal', 'contact', 'company', 'appointment', 'none'] as const
const none = [{}]
const said = [{ said: '“much” is not a number.' }]

/** Every answer with every number and kind of record, by code. */
const DENIED: Parameters<typeof coded<Denial>>[0] = {
  notFound: [{ what: 'rule 5' }, { what: 'a version of rule 5' }],
  noRoute: none,
  noSuch: (['call', 'request', 'address'] as const).map((what) => ({ what })),
  notSetUp: none,
  partInvalid: ['path', 'query', 'body'].map((part) => ({ part })),
  bodyTooLarge: [999, 1_000, 256_000, 1_000_000, 50_000_000].map((mostBytes) => ({ mostBytes })),
  bodyNotText: none,
  bodyNotJson: none,
  bodyTooDeep: NUMBERS.map((most) => ({ most })),
  bodyTooMany: [50_000].map((most) => ({ most })),
  bodyType: none,
  formInvalid: [{ path: 'email', said: 'Enter an email address.' }],
  cursorInvalid: none,
  filterNotJson: none,
  filterInvalid: [
    { at: 'items.0.op', said: 'There is no such condition.' },
    { at: '', said: 'It is not valid.' },
  ],
  periodTooLong: NUMBERS.map((days) => ({ days })),
  keyLength: [{ most: 200 }],
  keyUsed: none,
  sameUnderWay: none,
  recordChanged: NUMBERS.map((version) => ({ given: '"7"', version })),
  notSaved: said,
  fileNotImported: said,
  fileUnreadable: said,
  tooManyRequests: none,
  otherWebsite: none,
  websiteNotAllowed: none,
  notTaken: [401, 422].map((status) => ({ status, said: 'The signature is missing.' })),
  unknownHost: none,
  workspaceEmpty: none,
  tooManySignIns: none,
  serverBusy: none,
  tooMuchAsked: none,
  diskFull: none,
  databaseReadOnly: none,
  databaseBusy: none,
  diskError: none,
  databaseDamaged: none,

  signInFirst: none,
  signInWrong: none,
  accountInactive: none,
  keyUnknown: none,
  tooManyAttempts: [1, 2, 89, 90, 1_000].map((seconds) => ({ seconds })),
  noPermission: [{ to: 'build rules' }],
  keyNotForAccounts: none,
  keyNotForArea: [['rules'], ['rules', 'records'], ['rules', 'records', 'messages']].map((areas) => ({
    area: 'data',
    areas,
  })),
  keyReadOnly: none,
  noPasswordsInDemo: none,
  noSwitching: none,
  alreadySetUp: none,
  setUpCodeWrong: none,
  passwordWrong: none,
  emailInUse: none,
  chatAddressMissing: none,
  lastSpecialist: (['role', 'active'] as const).map((part) => ({ part })),
  awayHalf: none,
  awayBackwards: none,
  noDeputy: none,

  unfinished: (['rehearse', 'forecast', 'switchOn'] as const).map((to) => ({ to })),
  draftUnreadable: [{ said: 'steps.0: There is no step “s9”.' }],
  versionUnreadable: NUMBERS.map((version) => ({ version, said: 'There is no step “s9”.' })),
  recordTypeFixed: none,
  ruleChanged: [{ who: 'Ines Calloway' }, { who: 'Someone' }],
  ruleChangedMeanwhile: none,
  archiveFirst: none,
  ruleHasRuns: none,
  ruleIsOff: none,
  ruleNotPaused: none,
  noExisting: none,
  casesFailed: NUMBERS.slice(1).map((failed) => ({ failed })),
  nothingToCompare: NUMBERS.map((rule) => ({ rule })),
  notMonth: [{ raw: '2026' }],
  noFigure: ['month', null].map((by) => ({ figure: 'sales', by })),
  suggestionOutdated: none,
  jobNotRunning: none,
  jobDone: none,
  jobRunning: none,

  taskWithdrawn: none,
  taskDone: none,
  taskTaken: [{ who: 'Rosa Amara' }, { who: 'Someone' }],
  taskOfNoQueue: none,
  taskInQueue: none,
  postponeWhere: none,
  timePassed: none,
  problemNotRetried: none,
  clockReal: none,
  clockTooFar: NUMBERS.map((days) => ({ days })),
  noSimulation: none,
  importStarted: none,
  columnsFixed: none,
  nothingAdded: none,
  importNotRunning: none,
  importedFileGone: none,
  columnsWrong: none,
  fieldsOnce: none,
  fieldUnknown: NUMBERS.map((id) => ({ id })),
  linkOtherWay: KINDS.map((from) => ({ from, to: 'company' as const })),
  storageTooShort: NUMBERS.map((days) => ({ what: 'Rule runs', days })),
  pageAddressInUse: none,
  personNotHere: [{ person: 'Someone Else' }],
  requestUnderWay: none,
  noAnswerAwaited: none,
}

describe('the answer to what was not done', () => {
  const denials = coded<Denial>(DENIED)

  it('is there for every code', () => {
    expect(Object.keys(DENIED).toSorted()).toEqual(denialCodes().toSorted())
  })

  it.each(denials.map((one) => [JSON.stringify(one), one] as const))('%s reads right', (_, denial) => {
    const { status, title, detail, places = [] } = sayDenial(denial)
    expect(status).toBeGreaterThanOrEqual(400)
    expect(status).toBeLessThan(600)
    for (const text of [title, detail, ...places.map((one) => one.text)]) expect(wrongIn(text), text).toBeNull()
    // A title is none, and everything else is whole sentences.
    expect(title).toMatch(/^[A-Z][^.]+$/)
    for (const text of [detail, ...places.map((one) => one.text)]) expect(text).toMatch(/^\P{Ll}.*\.$/su)
  })

  it('agrees with what it counts', () => {
    const detail = (denial: Denial) => sayDenial(denial).detail
    expect([1, 2].map((failed) => detail({ code: 'casesFailed', failed }))).toEqual([
      '1 test case of the rule gives a different result. Review the differences, or publish anyway.',
      '2 test cases of the rule give a different result. Review the differences, or publish anyway.',
    ])
    expect([1, 60, 100].map((seconds) => detail({ code: 'tooManyAttempts', seconds }))).toEqual([
      'Wait 1 second, then try again.',
      'Wait 60 seconds, then try again.',
      'Wait 2 minutes, then try again.',
    ])
    expect([20_000, 50_000_000].map((mostBytes) => detail({ code: 'bodyTooLarge', mostBytes }))).toEqual([
      'The body of this request can be at most 20 kB.',
      'The body of this request can be at most 50 MB.',
    ])
  })
})
