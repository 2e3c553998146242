import { describe, expect, it } from 'vitest'
import type { Values } from '../language/value'
import type { RecordRef } from '../records/kinds'
import { active, all, condition, enters, given, move, set, task, type StepLine } from '../testing/rules'
import { TestWorld } from '../testing/world'
import type { ActiveRule } from './matcher'
import { NOW_MS } from '../testing/setting'
import { at, note, worldWith, tasks, states } from './clockwork.setting'

const wait = (until: object, recheck = true): StepLine => ['wait', { until, recheck }]

const after = (count: number, unit = 'days', minute: number | null = null) => ({
  at: 'after',
  amount: { count, unit },
  minute,
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
      ['stopped', { code: 'ended', say: 'the contact was qualified as deal “New one”' }],
      ['done', null],
    ])
  })

  it('longer than the grace while nothing ran is recorded as missed', () => {
    const { world } = begin(quoted([wait(after(1)), note('x')]))
    world.pass(at('2026-12-01'), true)
    expect([world.state.runs[0]?.end?.stop, tasks(world)]).toEqual([
      { code: 'ended', say: 'it was due on 25 Nov 2026, 9:12 while the server was down' },
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
      { state: 'skipped', reason: { code: 'emptyField', field: 'Expected close' } },
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
