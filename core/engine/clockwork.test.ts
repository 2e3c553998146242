import { describe, expect, it } from 'vitest'
import { localMinute } from '../time/dates'
import { active, all, condition } from '../testing/rules'
import { TestWorld } from '../testing/world'
import { at, note, worldWith, tasks, states } from './clockwork.setting'

const atDate = (params: object) =>
  [
    'atDate',
    {
      field: 'closeDate',
      side: 'before',
      amount: { count: 3, unit: 'days' },
      minute: 510,
      zone: 'workspace',
      every: 'once',
      leap: 'feb28',
      months: [],
      weekdays: [],
      ...params,
    },
  ] as const

/** When each run began, by the clock of a zone. */
const starts = (world: TestWorld, zone = 'Europe/Lisbon'): readonly string[] =>
  world.state.runs
    .filter(({ run }) => run.occurrence.startsWith('date') || run.occurrence.startsWith('every'))
    .map(({ atMs, run }) => `${run.ref.id} ${localMinute(atMs, zone)}`)

describe('a date comes', () => {
  it('starts each record once, at its own moment, and says why', () => {
    const { world } = worldWith(
      [active(1, { when: [atDate({})], then: [note('Ring {{deal.name}}')] })],
      { closeDate: '2026-12-10' },
      { closeDate: '2026-12-10' },
      { closeDate: '2026-12-02' },
      {},
    )
    world.pass(at('2027-02-01'))
    expect(starts(world)).toEqual(['3 2026-11-29T08:30', '1 2026-12-07T08:30', '2 2026-12-07T08:30'])
    expect(world.state.tasks[0]?.because).toBe('its expected close was 3 days away, 2 Dec 2026')
  })

  it('moves with its date, starts nothing for a moment that has passed, and nothing again when the date moves back', () => {
    const {
      world,
      refs: [deal],
    } = worldWith([active(1, { when: [atDate({})], then: [note('Ring')] })], { closeDate: '2026-12-10' })
    if (!deal) throw new Error('no deal')
    const rules = world.rules
    const to = (closeDate: string | null): void => {
      world.change(deal, { closeDate })
      world.drain(rules)
    }
    to('2026-12-01')
    world.pass(at('2026-11-29'))
    expect(starts(world)).toEqual(['1 2026-11-28T08:30'])
    to('2026-11-30')
    to('2026-12-20')
    to('2026-12-01')
    to(null)
    to('2026-12-05')
    world.pass(at('2027-01-01'))
    expect(starts(world)).toEqual(['1 2026-11-28T08:30', '1 2026-12-02T08:30'])
  })

  it('asks the conditions of that moment and keeps what they saw', () => {
    const {
      world,
      refs: [deal],
    } = worldWith(
      [
        active(1, {
          when: [atDate({})],
          onlyIf: all(condition('stage', 'is', { value: 'hp-terms' })),
          then: [note('Ring')],
        }),
      ],
      { closeDate: '2026-12-10', stage: 'hp-terms' },
      { closeDate: '2026-12-10' },
    )
    world.pass(at('2026-12-01'))
    world.change(deal ?? { object: 'deal', id: 1 }, { amount: 5 })
    world.pass(at('2027-01-01'))
    expect(states(world)).toEqual(['done', 'conditions'])
    expect(tasks(world)).toEqual(['Ring'])
  })

  it.each([
    [
      'before, in working days over weekends and holidays',
      { amount: { count: 2, unit: 'workdays' } },
      '2026-12-07',
      '2026-12-02T08:30',
    ],
    ['before, in months that end', { amount: { count: 1, unit: 'months' } }, '2027-03-31', '2027-02-28T08:30'],
    ['before, in weeks', { amount: { count: 2, unit: 'weeks' } }, '2026-12-20', '2026-12-06T08:30'],
    [
      'after, in months that end',
      { side: 'after', amount: { count: 1, unit: 'months' } },
      '2027-01-31',
      '2027-02-28T08:30',
    ],
    ['on the day, in the gap of daylight saving', { side: 'on', minute: 90 }, '2027-03-28', '2027-03-28T02:00'],
    ['on the day, at midnight', { side: 'on', minute: 0 }, '2026-12-05', '2026-12-05T00:00'],
  ])('is counted %s', (_what, params, closeDate, expected) => {
    const { world } = worldWith([active(1, { when: [atDate(params)], then: [note('x')] })], { closeDate })
    world.pass(at('2027-06-01'))
    expect(starts(world)).toEqual([`1 ${expected}`])
  })

  it('comes every year, 29 February on the day that is chosen, and never before the date itself', () => {
    const birthday = (leap: string) =>
      active(1, {
        object: 'contact',
        when: [['atDate', { ...atDate({ every: 'year', leap, side: 'on' })[1], field: 'birthday' }]],
        then: [note('Greet')],
      })
    for (const [leap, day] of [
      ['feb28', '02-28'],
      ['mar1', '03-01'],
    ] as const) {
      const world = new TestWorld()
      world.add('contact', 1, { birthday: '1992-02-29', owner: 'rosa' })
      world.add('contact', 2, { birthday: '2028-05-05', owner: 'rosa' })
      world.drain([])
      world.switchOn(birthday(leap))
      world.pass(at('2029-01-01'))
      expect(starts(world)).toEqual([`1 2027-${day}T08:30`, '1 2028-02-29T08:30', '2 2028-05-05T08:30'])
    }
  })

  it('comes every month on its day, or on the month’s last', () => {
    const { world } = worldWith(
      [active(1, { when: [atDate({ every: 'month', side: 'on' })], then: [note('x')] })],
      { closeDate: '2026-10-31' },
      { closeDate: '2027-01-15' },
    )
    world.pass(at('2027-03-20'))
    expect(starts(world)).toEqual([
      '1 2026-11-30T08:30',
      '1 2026-12-31T08:30',
      '2 2027-01-15T08:30',
      '1 2027-01-31T08:30',
      '2 2027-02-15T08:30',
      '1 2027-02-28T08:30',
      '2 2027-03-15T08:30',
    ])
  })

  it('comes only in the months and on the weekdays that are chosen', () => {
    const { world } = worldWith(
      [
        active(1, {
          when: [atDate({ every: 'month', side: 'on', months: [1, 3], weekdays: [1, 5] })],
          then: [note('x')],
        }),
      ],
      { closeDate: '2026-10-15' },
    )
    world.pass(at('2027-12-31'))
    // 15 January 2027 is a Friday, 15 March a Monday.
    expect(starts(world)).toEqual(['1 2027-01-15T08:30', '1 2027-03-15T08:30'])
  })

  it('goes by the contact’s own clock, and moves when that does', () => {
    const world = new TestWorld()
    for (const [id, zone] of [
      [1, 'Pacific/Auckland'],
      [2, 'America/Vancouver'],
      [3, null],
      [4, 'Asia/Kolkata'],
      [5, 'nowhere'],
    ] as const)
      world.add('contact', id, { birthday: '1990-12-05', zone, owner: 'rosa' })
    world.drain([])
    world.switchOn(
      active(1, {
        object: 'contact',
        when: [['atDate', { ...atDate({ every: 'year', side: 'on', zone: 'contact' })[1], field: 'birthday' }]],
        then: [note('Greet')],
      }),
    )
    world.change({ object: 'contact', id: 3 }, { zone: 'America/Halifax' })
    world.drain(world.rules)
    world.pass(at('2026-12-31'))
    expect(starts(world, 'UTC')).toEqual([
      '1 2026-12-04T19:30',
      '4 2026-12-05T03:00',
      '5 2026-12-05T08:30',
      '3 2026-12-05T12:30',
      '2 2026-12-05T16:30',
    ])
  })

  it('comes first where the day begins first', () => {
    const world = new TestWorld()
    world.add('contact', 1, { birthday: '1990-12-05', zone: 'Etc/GMT+12', owner: 'rosa' })
    world.add('contact', 2, { birthday: '1990-12-06', zone: 'Pacific/Kiritimati', owner: 'rosa' })
    world.drain([])
    world.switchOn(
      active(1, {
        object: 'contact',
        when: [['atDate', { ...atDate({ every: 'year', side: 'on', zone: 'contact' })[1], field: 'birthday' }]],
        then: [note('Greet')],
      }),
    )
    world.pass(at('2026-12-31'))
    expect(starts(world, 'UTC')).toEqual(['2 2026-12-05T18:30', '1 2026-12-05T20:30'])
  })

  it('of a birthday that has just been says nothing about those that come', () => {
    const world = new TestWorld()
    for (const [id, birthday] of [
      [1, '1990-11-23'],
      [2, '1990-11-24'],
      [3, '1990-12-05'],
      [4, '1990-12-07'],
    ] as const)
      world.add('contact', id, { birthday, owner: 'rosa' })
    world.drain([])
    world.switchOn(
      active(1, {
        object: 'contact',
        when: [['atDate', { ...atDate({ every: 'year', side: 'on', zone: 'contact' })[1], field: 'birthday' }]],
        then: [note('Greet')],
      }),
    )
    world.pass(at('2026-12-31'))
    expect(starts(world)).toEqual(['3 2026-12-05T08:30', '4 2026-12-07T08:30'])
  })

  it('is made up for when nothing ran for a while, in the order of the moments; what is older is recorded as missed', () => {
    const { world } = worldWith(
      [active(1, { when: [atDate({ side: 'on' })], then: [note('{{deal.name}}')] })],
      { closeDate: '2026-11-30' },
      { closeDate: '2026-11-29' },
      { closeDate: '2026-11-26' },
    )
    world.pass(at('2026-11-30', 8, 0), true)
    expect(states(world)).toEqual(['missed', 'done'])
    world.pass(at('2026-11-30', 9, 0))
    expect(tasks(world)).toEqual(['deal 2', 'deal 1'])
    expect(world.state.runs[0]?.end?.stop).toMatchObject({
      say: 'it was due on 26 Nov 2026, 8:30 while the server was down',
    })
  })

  it('of many at once each is started once, in pieces', () => {
    const { world } = worldWith(
      [active(1, { when: [atDate({ side: 'on' })], then: [note('{{deal.name}}')] })],
      ...Array.from({ length: 11 }, () => ({ closeDate: '2026-11-30' })),
    )
    world.pass(at('2026-12-01'))
    expect(new Set(tasks(world)).size).toBe(11)
  })

  it('works for a date that comes and one in the middle of the work alike: the earliest timer is always the next moment', () => {
    const {
      world,
      refs: [deal],
    } = worldWith([active(1, { when: [atDate({ side: 'on' })], then: [note('x')] })], { closeDate: '2027-08-01' })
    world.change(deal ?? { object: 'deal', id: 1 }, { closeDate: '2026-11-25' })
    world.drain(world.rules)
    expect(world.state.timers).toMatchObject([{ dueMs: at('2026-11-25', 8, 30) }])
  })
})

describe('again and again', () => {
  it('starts all that match at that moment', () => {
    const {
      world,
      refs: [deal],
    } = worldWith(
      [
        active(1, {
          when: [
            ['recurring', { rule: { rule: 'FREQ=WEEKLY;BYDAY=TH', from: '2026-01-01' }, minute: 930, offDays: 'next' }],
          ],
          onlyIf: all(condition('stage', 'is', { value: 'hp-sized' })),
          then: [note('Tidy {{deal.name}}')],
        }),
      ],
      {},
      { stage: 'hp-terms' },
    )
    world.pass(at('2026-11-27'))
    world.change(deal ?? { object: 'deal', id: 1 }, { stage: 'hp-lost' })
    world.change({ object: 'deal', id: 2 }, { stage: 'hp-sized' })
    world.drain(world.rules)
    world.pass(at('2026-12-05'))
    // Thu 3 Dec is a holiday.
    expect(starts(world)).toEqual(['1 2026-11-26T15:30', '2 2026-12-04T15:30'])
  })
})
