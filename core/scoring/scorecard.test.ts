import { sayProblem } from '../language/problems'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NOTHING_AROUND, subjectOf } from '../records/subject'
import type { Activity } from '../records/activity'
import { all, condition } from '../testing/rules'
import { bandOf, cardProblem, compileCard, sayLine } from './scorecard'
import type { Scorecard, ScoreLine } from './card'
import { catalogue, moment, NOW_MS } from '../testing/setting'

const DAY = 86_400_000
const doing = (points: number, more: object = {}, most: number | null = null, id = 'l1'): ScoreLine =>
  ({
    id,
    points,
    most,
    for: { what: 'doing', kind: 'visit', about: '', from: null, fading: { how: 'never' }, ...more },
  }) as ScoreLine
const being = (points: number, id = 'l2'): ScoreLine => ({
  id,
  points,
  most: null,
  for: { what: 'being', where: all(condition('buyingRole', 'is', { value: 'decides' })) },
})
const card = (lines: readonly ScoreLine[], more: Partial<Scorecard> = {}): Scorecard => ({
  id: 1,
  object: 'contact',
  name: 'Interest',
  key: 'interest',
  lines,
  least: null,
  most: null,
  bands: [
    { id: 'low', name: 'Low', from: 0 },
    { id: 'high', name: 'High', from: 40 },
  ],
  ...more,
})
const happened = (daysAgo: number, about = '/prices', kind: Activity['kind'] = 'visit'): Activity => ({
  id: daysAgo,
  kind,
  data: {},
  about,
  atMs: NOW_MS - daysAgo * DAY,
})
const score = (
  given: Scorecard,
  activities: readonly Activity[],
  values: object = {},
  linked: readonly Activity[] = [],
) =>
  compileCard(given, catalogue).score(
    {
      subject: subjectOf({ object: 'contact', id: 1, version: 1, values: { ...values } }, NOTHING_AROUND),
      activities: (from) => (from === null ? activities : linked),
    },
    moment,
  )

describe('a scorecard', () => {
  it('counts what happened and what is, with when it did last', () => {
    expect(
      score(
        card([doing(6, { about: 'PRICES' }), being(8), doing(3, { from: 'contact' }, null, 'l3')]),
        [happened(1), happened(9), happened(2, '/jobs'), happened(3, '/prices', 'form')],
        { buyingRole: 'decides' },
        [happened(4)],
      ),
    ).toEqual({
      points: 23,
      band: 'low',
      lines: [
        { id: 'l1', points: 12, times: 2, lastMs: NOW_MS - DAY, capped: false },
        { id: 'l2', points: 8, times: 1, lastMs: null, capped: false },
        { id: 'l3', points: 3, times: 1, lastMs: NOW_MS - 4 * DAY, capped: false },
      ],
    })
  })

  it('halves and forgets by days of the firm’s calendar', () => {
    expect(
      score(card([doing(8, { fading: { how: 'half', days: 10 } })]), [happened(0), happened(10), happened(20)]).points,
    ).toBe(14)
    expect(score(card([doing(8, { fading: { how: 'gone', days: 10 } })]), [happened(9), happened(10)]).points).toBe(8)
  })

  it('leaves out what has not happened yet', () => {
    expect(score(card([doing(8)]), [happened(-1)]).lines[0]).toMatchObject({ points: 0, times: 0 })
  })

  it('ends each line, whichever way it goes, and then the whole', () => {
    const many = Array.from({ length: 20 }, (_, i) => happened(i))
    expect(score(card([doing(6, {}, 30)]), many)).toMatchObject({ points: 30, lines: [{ capped: true, times: 20 }] })
    expect(score(card([doing(-6, {}, 30)]), many).points).toBe(-30)
    expect(score(card([doing(-6, {}, 30)], { least: 0 }), many).points).toBe(0)
    expect(score(card([doing(6)], { most: 100 }), many)).toMatchObject({ points: 100, band: 'high' })
  })

  it('never leaves its ends, and adds up to its lines inside of them', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            points: fc.integer({ min: -20, max: 20 }),
            most: fc.option(fc.integer({ min: 0, max: 50 })),
            days: fc.option(fc.integer({ min: 1, max: 60 })),
          }),
          { maxLength: 6 },
        ),
        fc.array(fc.integer({ min: 0, max: 90 }), { maxLength: 30 }),
        (lines, agos) => {
          const made = card(
            lines.map(({ points, most, days }, i) =>
              doing(points, days === null ? {} : { fading: { how: 'half', days } }, most, `l${i}`),
            ),
            { least: -40, most: 60 },
          )
          const got = score(
            made,
            agos.map((ago) => happened(ago)),
          )
          expect(got.points).toBeGreaterThanOrEqual(-40)
          expect(got.points).toBeLessThanOrEqual(60)
          got.lines.forEach((line, i) => {
            const { most } = lines[i] ?? { most: null }
            if (most !== null) expect(Math.abs(line.points)).toBeLessThanOrEqual(most)
          })
          const sum = got.lines.reduce((all0, line) => all0 + line.points, 0)
          if (sum > -40 && sum < 60) expect(got.points).toBeCloseTo(sum, 5)
        },
      ),
      { numRuns: 300 },
    )
  })

  it('has a band for every score; the lowest begins wherever', () => {
    const { bands } = card([])
    expect([-5, 0, 39.9, 40, 99].map((points) => bandOf({ bands }, points)?.id)).toEqual([
      'low',
      'low',
      'low',
      'high',
      'high',
    ])
    expect(bandOf({ bands: [] }, 5)).toBeNull()
  })

  it('says its lines', () => {
    expect(
      sayLine(doing(6, { about: '/prices', from: 'contact', fading: { how: 'half', days: 1 } }), 'company', catalogue),
    ).toBe('page visits of contacts with “/prices” in the address, half after 1 day')
    expect(sayLine(being(8), 'contact', catalogue)).toBe('the buying role is Decides')
    expect(sayLine({ ...being(8), for: { what: 'being', where: all() } }, 'contact', catalogue)).toBe('every contact')
  })

  it.each([
    [{ least: 10, most: 10 }, 'most: The maximum must be higher than the minimum.'],
    [
      {
        bands: [
          { id: 'a', name: 'A', from: 0 },
          { id: 'b', name: 'B', from: 0 },
        ],
      },
      'bands.1.from: “B” must start above the band before it.',
    ],
    [{ lines: [doing(1), doing(2)] }, 'lines: ID “l1” is used twice.'],
    [{ lines: [doing(0)] }, 'lines.0.points: Enter points other than 0.'],
    [{}, 'fits'],
  ])('is refused where it does not fit', (change, wanted) => {
    const problem = cardProblem({ ...card([doing(1)]), ...change })
    expect(problem ? `${problem.path}: ${sayProblem(problem.problem)}` : 'fits').toBe(wanted)
  })
})
