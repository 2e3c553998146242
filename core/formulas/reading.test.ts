import { describe, expect, it } from 'vitest'
import { readingOf } from './reading'
import { catalogue } from '../testing/setting'

describe('what the sign of a difference means', () => {
  it.each([
    ['today() - closeDate', 'Above 0 when the expected close is in the past, below 0 when it is in the future.'],
    ['closeDate - today()', 'Above 0 when the expected close is in the future, below 0 when it is in the past.'],
    [
      '(today() - closeDate) / duration("P1D")',
      'Above 0 when the expected close is in the past, below 0 when it is in the future.',
    ],
    [
      'closeDate - siteVisit',
      'Above 0 when the expected close is after the site-visit date, below 0 when it is before.',
    ],
    [
      'if amount > 5 then date(stageSince) - today() else null',
      'Above 0 when the stage start date is in the future, below 0 when it is in the past.',
    ],
    ['amount - margin', null],
    ['today() - today()', null],
    ['closeDate + duration("P1D")', null],
    ['closeDate -', null],
    ['gone - today()', null],
  ])('%s', (text, wanted) => {
    expect(readingOf(text, 'deal', catalogue)).toBe(wanted)
  })
})
