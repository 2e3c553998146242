import { describe, expect, it } from 'vitest'
import type { Values } from '../language/value'
import type { RecordRef } from '../records/kinds'
import { active, all, condition, enters, given, move, set, task, type StepLine } from '../testing/rules'
import { TestWorld } from '../testing/world'
import type { ActiveRule } from './matcher'
import { checkRule } from '../rules/check'
import { readRule } from '../rules/schema'
import { catalogue, NOW_MS } from '../testing/setting'
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

  it('says that its date was moved where the new moment has passed, and is done now within the grace', () => {
    const before = { at: 'field', field: 'closeDate', side: 'before', amount: { count: 1, unit: 'weeks' }, minute: 540 }
    const late = begin(quoted([wait(before), note('x')]), { closeDate: '2026-12-20' })
    // It is Tue 24 Nov: a week before would have been the 10th.
    late.world.change(late.deal, { closeDate: '2026-11-17' })
    late.world.drain(late.world.rules)
    expect([tasks(late.world), late.world.state.waits, late.world.state.runs[0]?.end?.stop]).toEqual([
      [],
      [],
      { code: 'ended', say: 'the date was moved; its moment, 10 Nov 2026, 9:00, had passed' },
    ])
    const soon = begin(quoted([wait(before), note('x')]), { closeDate: '2026-12-20' })
    soon.world.change(soon.deal, { closeDate: '2026-12-01' })
    soon.world.drain(soon.world.rules)
    soon.world.pass(NOW_MS)
    expect([tasks(soon.world), states(soon.world)]).toEqual([['x'], ['done']])
  })

  describe('with two ends', () => {
    const until = (most: number, came: readonly StepLine[], ranOut: readonly StepLine[]): StepLine => [
      'waitFor',
      { field: 'stage', how: 'to', to: 'hp-terms', most: { count: most, unit: 'days' }, recheck: true },
      [null, ...came],
      [null, ...ranOut],
    ]
    const two = (most = 2) =>
      quoted([until(most, [note('came'), wait(after(1)), note('a day later')], [note('ran out')]), note('behind')])

    it('goes on with the branch of the end that came, and with what stands behind both', () => {
      const { world, deal } = begin(two())
      world.change(deal, { stage: 'hp-terms' })
      world.drain(world.rules)
      expect([tasks(world), states(world)]).toEqual([['came'], ['waiting']])
      world.pass(at('2026-11-30'))
      expect([tasks(world), states(world)]).toEqual([['came', 'a day later', 'behind'], ['done']])
    })

    it('takes the other one when the time is up, and neither when it is ended', () => {
      const late = begin(two())
      late.world.pass(at('2026-11-26', 9, 11))
      expect(tasks(late.world)).toEqual([])
      late.world.pass(at('2026-11-26', 9, 12))
      expect([tasks(late.world), states(late.world)]).toEqual([['ran out', 'behind'], ['done']])
      const gone = begin(two())
      gone.world.delete(gone.deal)
      gone.world.drain(gone.world.rules)
      expect([tasks(gone.world), states(gone.world)]).toEqual([[], ['recordGone']])
    })

    it('may have nothing on either, and gives on its branches what it found', () => {
      const plain = begin(quoted([until(2, [], []), note('behind')]))
      plain.world.pass(at('2026-11-27'))
      expect(tasks(plain.world)).toEqual(['behind'])
      const byResult: StepLine = ['pathPerValue', { field: 's1.came' }, ['ranOut', note('known')], [null, note('?')]]
      const told = begin(quoted([until(2, [], [byResult])]))
      told.world.pass(at('2026-11-27'))
      expect(tasks(told.world)).toEqual(['known'])
    })

    it('is refused with one end, and a path that no limit leads to is pointed out', () => {
      const rule = two(0).document
      const [first, ...behind] = rule.steps
      const one = { ...rule, steps: [{ ...first, branches: first?.branches?.slice(1) }, ...behind] }
      expect(readRule(one)).toMatchObject({
        problem: { said: expect.stringContaining('A wait has exactly two paths') as string },
      })
      expect(checkRule(rule, catalogue)).toContainEqual(
        expect.objectContaining({ part: 'branch', problem: { code: 'noTimeLimit' } }),
      )
      expect(checkRule(two(2).document, catalogue)).toEqual([])
    })

    it('that was written before it had ends is read with two empty ones', () => {
      const { branches: _, ...step } = two().document.steps[0]!
      const read = readRule({ ...two().document, steps: [step] })
      expect(read.ok && read.value.steps[0]?.branches).toEqual([
        { id: 's1-came', steps: [] },
        { id: 's1-ranOut', steps: [] },
      ])
    })
  })

  describe('that cannot be', () => {
    const untilClose = (whenEmpty?: 'continue'): StepLine => [
      'wait',
      {
        until: { at: 'field', field: 'closeDate', side: 'on', amount: { count: 0, unit: 'days' }, minute: 540 },
        recheck: true,
        ...(whenEmpty ? { whenEmpty } : {}),
      },
    ]
    it('lets nothing through: without its date the run ends there, and goes on only where that is wanted', () => {
      const ends = begin(quoted([note('before'), untilClose(), note('behind')]))
      expect([tasks(ends.world), states(ends.world)]).toEqual([['before'], ['done']])
      expect(ends.world.state.steps.at(-1)?.result).toEqual({
        state: 'done',
        wrote: [{ what: 'stop', because: 'Expected close is empty' }],
      })
      const on = begin(quoted([note('before'), untilClose('continue'), note('behind')]))
      expect(tasks(on.world)).toEqual(['before', 'behind'])
    })

    it('is refused while writing inside “for each linked” and behind a deletion, and fails where it stands there', () => {
      const each = active(1, {
        when: [enters('hp-quoted')],
        then: [['eachLinked', { to: 'contact' }, [given('g1'), wait(after(1)), note('behind')]], note('at the end')],
      })
      const gone = active(2, { when: [['deleted', {}]], then: [wait(after(1)), note('behind')] })
      const later = active(3, { when: [['deleted', {}]], then: [task('x', { later: after(1) })] })
      for (const [rule, why] of [
        [each, 'linked'],
        [gone, 'deleted'],
        [later, 'deleted'],
      ] as const)
        expect(checkRule(rule.document, catalogue)).toContainEqual(
          expect.objectContaining({ part: 'step', problem: { code: 'cannotWait', why } }),
        )
      const world = new TestWorld()
      const deal = world.add('deal', 1, { owner: 'rosa' })
      const contact = world.add('contact', 2, {})
      world.link(deal, contact)
      world.drain([])
      world.switchOn(each, gone)
      world.change(deal, { stage: 'hp-quoted' })
      world.drain(world.rules)
      world.delete(deal)
      world.drain(world.rules)
      world.pass(at('2026-12-01'))
      expect([tasks(world), states(world)]).toEqual([[], ['failed', 'failed']])
    })
  })

  it('waits for a label, whatever else is on the field, and whoever puts it there', () => {
    const until: StepLine = [
      'waitForLabel',
      { labels: ['urgent'], how: 'added', field: 'labels', most: { count: 2, unit: 'days' }, recheck: true },
      [null, note('came')],
      [null, note('ran out')],
    ]
    const { world, deal } = begin(quoted([until]))
    expect(world.state.waits).toMatchObject([{ signals: [{ signal: 'label', key: 'labels+urgent' }] }])
    world.change(deal, { labels: ['press'] })
    world.drain(world.rules)
    expect(states(world)).toEqual(['waiting'])
    world.switchOn(
      ...world.rules,
      active(2, {
        when: [['fieldChanges', { field: 'units', how: 'anything', from: null, to: null }]],
        then: [['changeLabels', { how: 'add', labels: ['urgent'], field: 'labels' }]],
      }),
    )
    world.change(deal, { units: 4 })
    world.drain(world.rules)
    expect(world.read(deal)?.values.labels).toEqual(['urgent', 'press'])
    expect([tasks(world), states(world)[0]]).toEqual([['came'], 'done'])
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
    expect(world.notices).toEqual([])
    world.pass(at('2026-12-01'))
    expect(world.notices).toMatchObject([{ personId: 'rosa', subject: 'Reminder: x' }])
  })
})
