import { describe, expect, it } from 'vitest'
import type { Values } from '../language/value'
import type { RecordRef } from '../records/kinds'
import { instantOf, localMinute } from '../time/dates'
import { active, all, condition, enters, given, move, set, task, type StepLine } from '../testing/rules'
import { TestWorld } from '../testing/world'
import type { ActiveRule } from './matcher'
import { NOW_MS } from '../testing/setting'

/** The world begins on Tue 24 Nov 2026, 9:12 in Lisbon; Thu 3 Dec and Thu 24 Dec are holidays. */
const at = (date: string, hour = 0, minute = 0, zone = 'Europe/Lisbon'): number => instantOf(date, hour, minute, zone)
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
const wait = (until: object, recheck = true): StepLine => ['wait', { until, recheck }]
const after = (count: number, unit = 'days', minute: number | null = null) => ({
  at: 'after',
  amount: { count, unit },
  minute,
})
const note = (text: string): StepLine => task(text, { again: true })

function worldWith(
  rules: readonly ActiveRule[],
  ...deals: readonly Values[]
): { readonly world: TestWorld; readonly refs: readonly RecordRef[] } {
  const world = new TestWorld()
  const refs = deals.map((values, i) => world.add('deal', i + 1, { owner: 'rosa', ...values }))
  world.drain([])
  world.switchOn(...rules)
  return { world, refs }
}
const tasks = (world: TestWorld): readonly string[] => world.state.tasks.map(({ title }) => title)
/** When each run began, by the clock of a zone. */
const starts = (world: TestWorld, zone = 'Europe/Lisbon'): readonly string[] =>
  world.state.runs
    .filter(({ run }) => run.occurrence.startsWith('date') || run.occurrence.startsWith('every'))
    .map(({ atMs, run }) => `${run.ref.id} ${localMinute(atMs, zone)}`)
const states = (world: TestWorld): readonly (string | undefined)[] =>
  world.state.runs.map(({ end }) => end?.stop?.code ?? end?.state)

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
    expect(world.state.tasks[0]?.because).toBe('Rule 1: its expected close was 3 days away, 2 Dec 2026')
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
    expect(world.state.runs[0]?.end?.stop).toMatchObject({ say: 'it was due on 26 Nov 2026, 8:30, when nothing ran' })
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

describe('waiting', () => {
  const quoted = (then: readonly StepLine[], more: object = {}): ActiveRule => {
    const rule = active(1, { when: [enters('hp-quoted')], then })
    return { ...rule, document: { ...rule.document, ...more } }
  }
  const begin = (rule: ActiveRule, values: Values = {}): { readonly world: TestWorld; readonly deal: RecordRef } => {
    const { world, refs } = worldWith([rule], values)
    const deal = refs[0] ?? { object: 'deal' as const, id: 1 }
    world.change(deal, { stage: 'hp-quoted' })
    world.drain(world.rules)
    return { world, deal }
  }

  it('lets the next steps come when their time does, and what was done before is not done again', () => {
    const { world } = begin(
      quoted([note('one'), wait(after(4)), note('two'), wait(after(1, 'workdays', 510)), note('three')]),
    )
    expect([tasks(world), states(world)]).toEqual([['one'], ['waiting']])
    world.pass(at('2026-11-28', 9, 12))
    expect(tasks(world)).toEqual(['one', 'two'])
    world.pass(at('2026-11-30', 8, 29))
    expect(tasks(world)).toEqual(['one', 'two'])
    world.pass(at('2026-11-30', 8, 30))
    expect([tasks(world), states(world)]).toEqual([['one', 'two', 'three'], ['done']])
  })

  it('goes on inside the path that was gone then', () => {
    const large = given('g1', condition('amount', 'moreThan', { value: 100 }))
    const { world, deal } = begin(
      quoted([['choosePath', {}, [large, wait(after(1)), note('large')], [null, note('small')]], note('behind')]),
      { amount: 500 },
    )
    world.change(deal, { amount: 1 })
    world.pass(at('2026-12-01'))
    expect(tasks(world)).toEqual(['large', 'behind'])
  })

  const still = { conditions: all(condition('stage', 'is', { value: 'hp-quoted' })) }
  it.each([
    ['stops when what it asks for is no longer true', quoted([wait(after(2)), note('x')], still), ['noLonger'], []],
    [
      'goes on all the same when the rule says so',
      quoted([wait(after(2)), note('x')], { ...still, recheck: false }),
      ['done'],
      ['x'],
    ],
    ['goes on all the same when the step says so', quoted([wait(after(2), false), note('x')], still), ['done'], ['x']],
  ])('%s', (_what, rule, state, made) => {
    const { world, deal } = begin(rule)
    world.change(deal, { stage: 'hp-terms' })
    world.drain(world.rules)
    world.pass(at('2026-12-01'))
    expect([states(world), tasks(world)]).toEqual([state, made])
  })

  it('moves with the date it hangs on, and ends when that is emptied', () => {
    const before = { at: 'field', field: 'closeDate', side: 'before', amount: { count: 1, unit: 'weeks' }, minute: 540 }
    const { world, deal } = begin(quoted([wait(before), note('x')]), { closeDate: '2026-12-20' })
    expect(world.state.waits).toMatchObject([{ dueMs: at('2026-12-13', 9) }])
    world.change(deal, { closeDate: '2027-01-20' })
    world.drain(world.rules)
    expect(world.state.waits).toMatchObject([{ dueMs: at('2027-01-13', 9) }])
    world.change(deal, { closeDate: null })
    world.drain(world.rules)
    expect([world.state.waits, world.state.runs[0]?.end?.stop]).toEqual([
      [],
      { code: 'ended', say: 'Expected close is empty' },
    ])
  })

  it('waits for what happens, and only for what happens after it began', () => {
    const until: StepLine = [
      'waitFor',
      { field: 'stage', how: 'to', to: 'hp-terms', most: { count: 2, unit: 'days' }, recheck: true },
    ]
    const paths: StepLine = [
      'pathPerValue',
      { field: 's2.came' },
      ['came', note('came')],
      ['ranOut', note('ran out')],
      [null, note('?')],
    ]
    const { world, deal } = begin(quoted([set('units', 3), until, paths]))
    world.change(deal, { stage: 'hp-sized' })
    world.drain(world.rules)
    expect(states(world)).toEqual(['waiting'])
    world.change(deal, { stage: 'hp-terms' })
    world.drain(world.rules)
    expect([tasks(world), states(world)]).toEqual([['came'], ['done']])
    const late = begin(quoted([set('units', 3), until, paths]))
    late.world.pass(at('2026-11-26', 9, 12))
    expect([tasks(late.world), states(late.world)]).toEqual([['ran out'], ['done']])
    // The rule's own change before the wait is none that it waits for.
    const own = begin(quoted([move('hp-terms'), until, paths]))
    expect(states(own.world)[0]).toBe('waiting')
  })

  it('ends with its record', () => {
    const { world, deal } = begin(quoted([wait(after(2)), note('x')]))
    world.delete(deal)
    world.drain(world.rules)
    world.pass(at('2026-12-01'))
    expect([states(world), tasks(world), world.state.waits]).toEqual([['recordGone'], [], []])
  })

  it('of a contact ends when it is qualified, and holds nothing up', () => {
    const world = new TestWorld()
    const contact = world.add('contact', 1, { owner: 'rosa' })
    world.drain([])
    world.switchOn(
      active(1, {
        object: 'contact',
        when: [['fieldChanges', { field: 'buyingRole', how: 'filled', from: null, to: null }]],
        then: [wait(after(9)), note('x')],
      }),
      active(2, {
        object: 'contact',
        when: [['fieldChanges', { field: 'language', how: 'filled', from: null, to: null }]],
        then: [['qualify', { stage: 'enq-fresh', name: 'New one', company: false, again: false }]],
      }),
    )
    world.change(contact, { buyingRole: 'decides' })
    world.drain(world.rules)
    world.change(contact, { language: 'polish' })
    world.drain(world.rules)
    expect(world.state.runs.map(({ end }) => [end?.state, end?.stop])).toEqual([
      ['stopped', { code: 'ended', say: 'the contact was qualified into “New one”' }],
      ['done', null],
    ])
  })

  it('longer than the grace while nothing ran is recorded as missed', () => {
    const { world } = begin(quoted([wait(after(1)), note('x')]))
    world.pass(at('2026-12-01'), true)
    expect([world.state.runs[0]?.end?.stop, tasks(world)]).toEqual([
      { code: 'ended', say: 'missed: it was due on 25 Nov 2026, 9:12, when nothing ran' },
      [],
    ])
    const patient = begin(quoted([wait(after(1)), note('x')], { graceHours: 1000 }))
    patient.world.pass(at('2026-12-01'), true)
    expect(tasks(patient.world)).toEqual(['x'])
  })

  it('can be failed behind and tried again', () => {
    const { world } = begin(
      quoted([wait(after(1)), ['setField', { field: 'gone', source: { from: 'value', value: 1 } }], note('x')]),
    )
    world.pass(at('2026-11-26'))
    expect([states(world), tasks(world)]).toEqual([['failed'], []])
  })
})

describe('tasks that appear later', () => {
  it('come 100 and 200 days from the trigger while the run goes on, if still wanted', () => {
    const later = (count: number) => ({ later: after(count) })
    const rule = active(1, {
      when: [enters('hp-quoted')],
      onlyIf: all(condition('stage', 'is', { value: 'hp-quoted' })),
      then: [task('first', later(100)), task('second', later(200)), note('now')],
    })
    const {
      world,
      refs: [deal],
    } = worldWith([rule], {})
    world.change(deal ?? { object: 'deal', id: 1 }, { stage: 'hp-quoted' })
    world.drain(world.rules)
    expect([tasks(world), states(world)]).toEqual([['now'], ['waiting']])
    world.pass(NOW_MS + 100 * 86_400_000 + 3_600_000)
    expect([tasks(world), states(world)]).toEqual([['now', 'first'], ['waiting']])
    expect(world.state.tasks[1]?.due).toBe('2027-03-08')
    world.pass(NOW_MS + 201 * 86_400_000)
    expect([tasks(world), states(world)]).toEqual([['now', 'first', 'second'], ['done']])
  })

  it('are left out when the date they hang on is emptied', () => {
    const later = { at: 'field', field: 'closeDate', side: 'before', amount: { count: 1, unit: 'days' }, minute: 540 }
    const {
      world,
      refs: [deal],
    } = worldWith([active(1, { when: [enters('hp-quoted')], then: [task('x', { later })] })], {
      closeDate: '2026-12-20',
    })
    if (!deal) throw new Error('no deal')
    world.change(deal, { stage: 'hp-quoted' })
    world.drain(world.rules)
    world.change(deal, { closeDate: null })
    world.drain(world.rules)
    expect([states(world), world.state.steps.at(-1)?.result]).toEqual([
      ['done'],
      { state: 'skipped', reason: { code: 'own', say: 'Expected close is empty' } },
    ])
  })

  it('remind whoever has them, once', () => {
    const {
      world,
      refs: [deal],
    } = worldWith([active(1, { when: [enters('hp-quoted')], then: [task('x', { remind: 'dayBefore' })] })], {})
    world.change(deal ?? { object: 'deal', id: 1 }, { stage: 'hp-quoted' })
    world.drain(world.rules)
    world.pass(at('2026-11-25', 8, 59))
    expect(world.reminded).toEqual([])
    world.pass(at('2026-12-01'))
    expect(world.reminded).toEqual([1])
  })
})
