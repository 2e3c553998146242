import { describe, expect, it } from 'vitest'
import { readingOf } from './reading'
import { catalogue } from '../testing/setting'

describe('what the sign of a difference means', () => {
  it.each([
    ['today() - closeDate', 'It is above 0 once the expected close has passed, and below 0 while that lies ahead.'],
    ['closeDate - today()', 'It is above 0 while the expected close lies ahead, and below 0 once that has passed.'],
    [
      '(today() - closeDate) / duration("P1D")',
      'It is above 0 once the expected close has passed, and below 0 while that lies ahead.',
    ],
    [
      'closeDate - siteVisit',
      'It is above 0 where the expected close comes after the site-visit date, and below 0 where it comes before.',
    ],
    [
      'if amount > 5 then date(stageSince) - today() else null',
      'It is above 0 while the in its stage since lies ahead, and below 0 once that has passed.',
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
