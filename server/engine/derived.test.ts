import { describe, expect, it } from 'vitest'
import { all, condition, daysBefore, document, task } from '../../core/testing/rules'
import type { RecordRef } from '../../core/records/kinds'
import { refusal } from '../testing/refusal'
import { larkmoor, switchOn } from '../testing/workspace'
import { planClock, workClock } from './clockwork'
import { changeDerived, workDerived } from './derived'
import { changeField, fieldOf } from './fields'
import { deleteRecord, mergeRecords, restoreRecord } from './going'
import { setUpRehearsal } from './rehearsal'
import { makeSegment } from './segments'
import { control, at, deal, value, titles, until, stale } from './derived.setting'
import type { Workspace } from './workspace'
import { formula, roll } from './derived-more.setting'

describe('calculated fields', () => {
  it('are worked out in the change of what they hang on, one behind the other', () => {
    const { workspace } = larkmoor()
    formula(workspace, 'Half', 'amount / 2', 'currency')
    formula(workspace, 'Quarter', 'half / 2', 'currency')
    const ref = deal(workspace, { amount: 100 })
    expect([value(workspace, ref, 'half'), value(workspace, ref, 'quarter')]).toEqual([50, 25])
    const { event } = workspace.change(ref, { amount: 40 }, 'rosa')
    expect(event?.changes.map((change) => [change.field, change.new])).toEqual([
      ['amount', 40],
      ['half', 20],
      ['quarter', 10],
    ])
    workspace.change(ref, { amount: null }, 'rosa')
    expect([value(workspace, ref, 'half'), value(workspace, ref, 'quarter')]).toEqual([null, null])
    expect(refusal(() => workspace.change(ref, { half: 3 }, 'rosa'))).toBe(
      'half: “Half” is read-only: calculated: amount / 2.',
    )
  })

  it('start rules like any other field', () => {
    const { workspace } = larkmoor()
    formula(workspace, 'Half', 'amount / 2', 'currency')
    switchOn(
      workspace,
      document({ when: [['fieldChanges', { field: 'half', how: 'past', from: null, to: 50 }]], then: [task('Large')] }),
    )
    const ref = deal(workspace, { amount: 80 })
    workspace.change(ref, { amount: 120 }, 'rosa')
    expect(titles(workspace)).toEqual(['Large'])
  })

  it('do not count as a change of the record by themselves', async () => {
    const { workspace, clock } = larkmoor()
    formula(workspace, 'Days past', 'today() - closeDate')
    switchOn(workspace, document({ when: [['changed', {}]], then: [task('Changed', { again: true })] }))
    const ref = deal(workspace, { closeDate: '2026-12-01' })
    await workDerived(workspace, control)
    await until(workspace, clock, at('2026-11-27'))
    expect([value(workspace, ref, 'daysPast'), titles(workspace)]).toEqual([-4, []])
    workspace.change(ref, { closeDate: '2026-12-02' }, 'rosa')
    expect(titles(workspace)).toEqual(['Changed'])
  })

  it('leave no trace where only the day changes them, unless a rule goes by them', async () => {
    const days = (workspace: Workspace) =>
      workspace.store.events.from(0).filter(({ cause }) => cause.by === 'derived' && cause.of === null)
    for (const [listens, events] of [
      [null, 0],
      // It goes by what is worked out from the days, not by the days themselves.
      [{ field: 'twice', how: 'past', from: null, to: -4 }, 1],
      [{ field: 'daysPast', how: 'anything', from: null, to: null }, 3],
    ] as const) {
      const { workspace, clock } = larkmoor()
      formula(workspace, 'Days past', 'today() - closeDate')
      formula(workspace, 'Twice', 'daysPast * 2')
      if (listens)
        switchOn(workspace, document({ when: [['fieldChanges', listens]], then: [task('Late', { again: true })] }))
      const ref = deal(workspace, { closeDate: '2026-11-28' })
      await workDerived(workspace, control)
      await until(workspace, clock, at('2026-11-27'))
      expect([value(workspace, ref, 'daysPast'), value(workspace, ref, 'twice')]).toEqual([-1, -2])
      expect(days(workspace)).toHaveLength(events)
      expect(titles(workspace)).toHaveLength(events)
      expect(stale(workspace)).toEqual([])
    }
  })

  it('are refused with the place and the reason, and where they would go round in a circle', () => {
    const { workspace } = larkmoor()
    expect(refusal(() => formula(workspace, 'A', 'amonut * 2'))).toBe('text: 1–6: there is no “amonut” of a deal')
    expect(refusal(() => formula(workspace, 'A', 'name'))).toBe(
      'type: The result is a text. Choose the type text or long text.',
    )
    expect(refusal(() => formula(workspace, 'A', 'stageSince - now()'))).toBe(
      'text: now() can’t be used in a field because it changes constantly. Use today().',
    )
    expect(refusal(() => formula(workspace, 'Amount', '1'))).toBe('label: A field named “Amount” already exists.')
    const a = formula(workspace, 'First', 'amount + 1')
    formula(workspace, 'Second', 'first + 1')
    const field = fieldOf(workspace, a.id)
    expect(
      refusal(() => field && changeDerived(workspace, field, { made: { by: 'formula', text: 'second + 1' } }, 'ines')),
    ).toMatch(
      /^text: Circular reference: (First → Second → First|this field → Second → this field|Second → this field → Second)\.?$/,
    )
    roll(workspace, 'Sum', { what: 'sum', field: 'first' })
    expect(
      refusal(() => field && changeDerived(workspace, field, { made: { by: 'formula', text: 'company.sum' } }, 'ines')),
    ).toContain('Circular reference')
    expect(refusal(() => field && changeField(workspace, field, { archived: true }))).toBe(
      'archived: “First” can’t be archived: it is used to calculate “Second”. Remove it there first.',
    )
  })

  it('are worked out for all records when somebody says how, and those that hang on them, as no change of anything', async () => {
    const { workspace } = larkmoor()
    const refs = [100, 200, null].map((amount) => deal(workspace, { amount }))
    const { id } = formula(workspace, 'Half', 'amount / 2', 'currency')
    formula(workspace, 'Double', 'half * 4', 'currency')
    await workDerived(workspace, control)
    const values = () => refs.map((ref) => [value(workspace, ref, 'half'), value(workspace, ref, 'double')])
    expect(values()).toEqual([
      [50, 200],
      [100, 400],
      [null, null],
    ])
    const seq = workspace.store.events.last()
    const field = fieldOf(workspace, id)
    if (field) changeDerived(workspace, field, { made: { by: 'formula', text: 'amount * 0.25' } }, 'ines')
    await workDerived(workspace, control)
    expect(values()).toEqual([
      [25, 100],
      [50, 200],
      [null, null],
    ])
    expect(workspace.store.events.last()).toBe(seq)
    expect(stale(workspace)).toEqual([])
  })

  it('that go by today() follow the day, in small commits, and rules hear of real changes alone', async () => {
    const { workspace, clock } = larkmoor()
    formula(workspace, 'Days past', 'today() - closeDate')
    switchOn(
      workspace,
      document({
        when: [['fieldChanges', { field: 'daysPast', how: 'past', from: null, to: 14 }]],
        then: [task('Ask about {{deal.name}}')],
      }),
    )
    const [near, far, none] = ['2026-11-12', '2026-12-30', null].map((closeDate, i) =>
      deal(workspace, { name: `D${i}`, closeDate }),
    )
    expect([near, far, none].map((ref) => ref && value(workspace, ref, 'daysPast'))).toEqual([12, -36, null])
    await workDerived(workspace, control)
    await until(workspace, clock, at('2026-11-26'))
    expect([near, far, none].map((ref) => ref && value(workspace, ref, 'daysPast'))).toEqual([14, -34, null])
    expect(titles(workspace)).toEqual([])
    await until(workspace, clock, at('2026-12-20'))
    expect(titles(workspace)).toEqual(['Ask about D0'])
    expect(none && workspace.store.events.ofRecord(none, 9)).toHaveLength(1)
    // A whole week in which nothing ran is made up for at once.
    clock.set(at('2026-12-30'))
    await workClock(workspace, control)
    expect([value(workspace, far ?? { object: 'deal', id: 0 }, 'daysPast'), stale(workspace)]).toEqual([0, []])
  })
})

describe('roll-ups', () => {
  it('follow linked records and links, deletions, merges and what comes back', () => {
    const { workspace } = larkmoor()
    roll(workspace, 'Deals', {})
    roll(workspace, 'Sum', { what: 'sum', field: 'amount' }, 'currency')
    roll(
      workspace,
      'Next end',
      {
        what: 'first',
        field: 'closeDate',
        order: 'amount',
        down: true,
        where: all(condition('kind', 'is', { value: 'hire' })),
      },
      'date',
    )
    roll(workspace, 'Earliest', { what: 'earliest', field: 'closeDate' }, 'date')
    const [a, b] = ['A', 'B'].map((name) => workspace.create('company', { name }, [], 'ines').ref) as [
      RecordRef,
      RecordRef,
    ]
    const of = (ref: RecordRef) => ['deals', 'sum', 'nextEnd', 'earliest'].map((key) => value(workspace, ref, key))
    expect(of(a)).toEqual([0, null, null, null])
    const one = deal(workspace, { amount: 10, closeDate: '2026-12-01', kind: 'hire' }, [a])
    const two = deal(workspace, { amount: 30.5, closeDate: '2026-12-24', kind: 'purchase' })
    expect(of(a)).toEqual([1, 10, '2026-12-01', '2026-12-01'])
    workspace.link(two, a, '', false, 'ines')
    expect(of(a)).toEqual([2, 40.5, '2026-12-01', '2026-12-01'])
    workspace.change(two, { kind: 'hire' }, 'rosa')
    expect(of(a)).toEqual([2, 40.5, '2026-12-24', '2026-12-01'])
    workspace.unlink(one, a, 'ines')
    expect(of(a)).toEqual([1, 30.5, '2026-12-24', '2026-12-24'])
    deleteRecord(workspace, two, 'ines')
    expect(of(a)).toEqual([0, null, null, null])
    restoreRecord(workspace, two, 'ines')
    expect(of(a)).toEqual([1, 30.5, '2026-12-24', '2026-12-24'])
    workspace.link(one, b, '', false, 'ines')
    mergeRecords(workspace, a, b.id, [], 'ines')
    expect([...of(a), stale(workspace)]).toEqual([2, 40.5, '2026-12-24', '2026-12-01', []])
  })

  it('start rules, in the chain of the change that they follow', () => {
    const { workspace } = larkmoor()
    roll(workspace, 'Deals', { where: all(condition('stage', 'is', { value: 'hp-signed' })) })
    switchOn(
      workspace,
      document({
        object: 'company',
        when: [['fieldChanges', { field: 'deals', how: 'up', from: null, to: null }]],
        then: [task('Thank {{company.name}}')],
      }),
    )
    const company = workspace.create('company', { name: 'A', owner: 'rosa' }, [], 'ines').ref
    const ref = deal(workspace, {}, [company])
    workspace.change(ref, { stage: 'hp-signed' }, 'rosa')
    expect(titles(workspace)).toEqual(['Thank A'])
    const events = workspace.store.events.ofRecord(company, 1)
    expect(events[0]).toMatchObject({
      cause: { by: 'derived', of: ['deal', ref.id] },
      depth: 0,
      chainId: workspace.store.events.ofRecord(ref, 1)[0]?.chainId,
    })
  })

  it('are dates that rules go by, and move what hangs on them', async () => {
    const { workspace, clock } = larkmoor()
    roll(
      workspace,
      'Renewal',
      { what: 'latest', field: 'closeDate', where: all(condition('stage', 'is', { value: 'hp-signed' })) },
      'date',
    )
    await workDerived(workspace, control)
    switchOn(
      workspace,
      document({
        object: 'company',
        when: [daysBefore(3, 'renewal')],
        then: [task('Renew {{company.name}}')],
      }),
    )
    const company = workspace.create('company', { name: 'A', owner: 'rosa' }, [], 'ines').ref
    const first = deal(workspace, { stage: 'hp-signed', closeDate: '2026-12-01' }, [company])
    planClock(workspace)
    expect(workspace.store.waits.timers()[0]?.dueMs).toBe(at('2026-11-28', 8, 30))
    deal(workspace, { stage: 'hp-signed', closeDate: '2026-12-20' }, [company])
    await until(workspace, clock, at('2026-12-10'))
    expect(titles(workspace)).toEqual([])
    deleteRecord(workspace, first, 'ines')
    await until(workspace, clock, at('2026-12-18'))
    expect(titles(workspace)).toEqual(['Renew A'])
  })

  it('do not go round for ever when rules link because of them', () => {
    const { workspace } = larkmoor()
    roll(workspace, 'Deals', {})
    switchOn(
      workspace,
      document({
        object: 'company',
        when: [['fieldChanges', { field: 'deals', how: 'anything', from: null, to: null }]],
        then: [['createRecord', { make: 'deal', name: 'again', stage: 'hp-visit', again: true }]],
      }),
    )
    const company = workspace.create('company', { name: 'A' }, [], 'ines').ref
    deal(workspace, {}, [company])
    expect(workspace.store.records.count('deal')).toBeLessThan(15)
    expect(stale(workspace)).toEqual([])
  })
})

describe('a rehearsal', () => {
  it('turns the day and works values out as the live world does', async () => {
    const { workspace, clock } = larkmoor()
    formula(workspace, 'Days past', 'today() - closeDate')
    const segment = makeSegment(
      workspace,
      {
        object: 'deal',
        name: 'Past',
        columns: [],
        sort: '',
        down: false,
        filter: all(condition('daysPast', 'moreThan', { value: 3 })),
      },
      'ines',
    )
    for (const [name, closeDate] of [
      ['A', '2026-11-25'],
      ['B', '2026-12-01'],
      ['C', '2026-11-01'],
    ] as const)
      deal(workspace, { name, closeDate })
    await workDerived(workspace, control)
    const rules = [
      document(
        {
          when: [['fieldChanges', { field: 'daysPast', how: 'past', from: null, to: 5 }]],
          then: [task('Past 5: {{deal.name}}')],
        },
        'Five',
      ),
      document({ when: [['segmentEntered', { segment }]], then: [task('In: {{deal.name}}')] }, 'Segment'),
    ]
    const rehearsal = setUpRehearsal(workspace, {
      rules: rules.map((one, i) => ({ ruleId: 100 + i, document: one })),
      object: 'deal',
      ids: null,
      filter: null,
      days: 20,
      back: false,
      script: [],
    })
    rehearsal.goOn(() => false)
    const foretold = rehearsal.world.tasks.map((one) => one.title)
    for (const one of rules) switchOn(workspace, one)
    await until(workspace, clock, at('2026-12-14'))
    expect(foretold).toEqual(['In: A', 'Past 5: A', 'In: B', 'Past 5: B'])
    expect(titles(workspace)).toEqual(foretold)
  })
})
