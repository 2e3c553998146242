import { describe, expect, it } from 'vitest'
import { sayProblem } from '../language/problems'
import { readRates } from './rates-csv'

const FILE = `Date,USD,CAD,PLN
2026-11-27,1.09,1.5,N/A
26 November 2026,1.08,1.48,4.3
`
const read = (text: string, own = 'EUR', wanted = ['CAD', 'PLN']) => {
  const found = readRates(text, own, new Set(wanted))
  return found.ok ? found.value : sayProblem(found.problem)
}

describe('a file of rates', () => {
  it('is read line by line; what no record can be in is left out and named', () => {
    expect(read(FILE)).toEqual({
      rates: [
        { code: 'CAD', day: '2026-11-27', perOwn: 1.5 },
        { code: 'CAD', day: '2026-11-26', perOwn: 1.48 },
        { code: 'PLN', day: '2026-11-26', perOwn: 4.3 },
      ],
      left: ['USD'],
    })
  })

  it('is turned into the workspace’s own currency', () => {
    expect(read(FILE, 'CAD', ['EUR', 'PLN'])).toEqual({
      rates: [
        { code: 'EUR', day: '2026-11-27', perOwn: 0.666666666667 },
        { code: 'EUR', day: '2026-11-26', perOwn: 0.675675675676 },
        { code: 'PLN', day: '2026-11-26', perOwn: 2.90540540541 },
      ],
      left: ['USD'],
    })
  })

  it('is refused with line and reason', () => {
    expect(read('Day,USD\n')).toContain('line 1: the first column must be “Date”')
    expect(read('Date,dollars\n2026-11-27,1')).toContain('line 1, column 2: “dollars”')
    expect(read('Date,CAD\nsoon,1')).toContain('line 2: “soon” is not a date')
    expect(read('Date,CAD\n2026-11-27,1.4\n2026-11-27,1.5')).toContain('line 3: 2026-11-27 is there twice')
    expect(read('Date,CAD\n2026-11-27,-1')).toContain('line 2, CAD: “-1” is not a rate')
    expect(read(FILE, 'NZD')).toContain('there is no column for NZD')
  })
})
