import { describe, expect, it } from 'vitest'
import { active, all, condition, enters, move, set, task } from '../testing/rules'
import { TestWorld } from '../testing/world'
import { catalogue } from '../testing/setting'
import { DEPTH_MOST, handleEvent } from './handle-event'
import { Matcher } from './matcher'

describe('from an event to its runs', () => {
  it('runs the steps and says why each task exists', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, { owner: 'rosa' })
    const rules = [
      active(1, { when: [enters('hp-quoted')], then: [set('quoteSentOn', '2026-11-24'), task('Ring {{deal.name}}')] }),
    ]
    world.drain(rules)
    world.change(deal, { stage: 'hp-quoted' })
    const [report] = world.drain(rules)
    expect(report).toMatchObject({ state: 'done', stop: null, ruleName: 'Rule 1' })
    expect(world.read(deal)?.values.quoteSentOn).toBe('2026-11-24')
    expect(world.state.tasks).toMatchObject([
      {
        title: 'Ring deal 1',
        assigneeId: 'rosa',
        due: '2026-11-26',
        because: 'the deal moved from Sized to Quoted',
      },
    ])
  })

  it('starts nothing when the value that is written stands there already', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, { stage: 'hp-quoted' })
    const rules = [active(1, { when: [enters('hp-quoted')], then: [set('units', 1)] })]
    world.drain(rules)
    const events = world.state.events.length
    world.change(deal, { stage: 'hp-quoted' })
    expect(world.state.events).toHaveLength(events)
    expect(world.drain(rules)).toEqual([])
  })

  it('never runs the same rule for the same record and occurrence twice', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, { owner: 'rosa' })
    const rules = [active(1, { when: [enters('hp-quoted')], then: [task('Once', { again: true })] })]
    world.drain(rules)
    world.change(deal, { stage: 'hp-quoted' })
    world.drain(rules)
    // As after a crash that lost the position in the log but not the runs.
    world.position = 0
    expect(world.drain(rules)).toEqual([])
    expect(world.state.tasks).toHaveLength(1)
  })

  it('records every condition with the value it saw, passed or failed', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, { amount: 12_000, kind: 'hire' })
    const rules = [
      active(1, {
        when: [enters('hp-quoted')],
        onlyIf: all(condition('amount', 'moreThan', { value: 15_000 }), condition('kind', 'is', { value: 'hire' })),
        then: [set('units', 1)],
      }),
    ]
    world.change(deal, { stage: 'hp-quoted' })
    const reports = world.drain(rules)
    expect(reports).toMatchObject([{ state: 'stopped', stop: { code: 'conditions' } }])
    expect(world.state.runs[0]?.end?.seen).toMatchObject([
      { text: 'its amount is more than €15,000', value: '€12,000', holds: false, off: '€3,000 below the limit' },
      { value: 'Hire', holds: true },
    ])
    expect(world.read(deal)?.values.units).toBeUndefined()
  })

  it('goes by order, then by age, and a later rule sees what an earlier one changed', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, { units: 1 })
    const rules = [
      active(
        3,
        {
          when: [enters('hp-quoted')],
          onlyIf: all(condition('units', 'is', { value: 7 })),
          then: [set('notes', 'third saw seven')],
        },
        20,
      ),
      active(
        2,
        {
          when: [enters('hp-quoted')],
          onlyIf: all(condition('units', 'is', { value: 1 })),
          then: [set('notes', 'second')],
        },
        10,
      ),
      active(1, { when: [enters('hp-quoted')], then: [set('units', 7)] }, 10),
    ]
    world.change(deal, { stage: 'hp-quoted' })
    expect(world.drain(rules).map((report) => [report.ruleId, report.state])).toEqual([
      [1, 'done'],
      [2, 'stopped'],
      [3, 'done'],
    ])
    expect(world.read(deal)?.values.notes).toBe('third saw seven')
  })

  it('cuts two rules that move a deal back and forth, and names the run it met again', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, { stage: 'hp-visit' })
    const rules = [
      active(1, { when: [enters('hp-terms')], then: [move('hp-sized')] }),
      active(2, { when: [enters('hp-sized')], then: [move('hp-terms')] }),
    ]
    world.drain(rules)
    world.change(deal, { stage: 'hp-terms' })
    const reports = world.drain(rules)
    expect(reports.map((report) => [report.ruleId, report.state])).toEqual([
      [1, 'done'],
      [2, 'done'],
      [1, 'stopped'],
    ])
    expect(reports[2]?.stop).toEqual({ code: 'circle', runId: reports[0]?.runId })
    expect(world.read(deal)?.values.stage).toBe('hp-terms')
  })

  it('ends a chain that is too deep even when no rule meets the same record again', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, { units: 0 })
    const rules = Array.from({ length: DEPTH_MOST + 3 }, (_, i) =>
      active(i + 1, {
        when: [['fieldChanges', { field: 'units', how: 'to', from: null, to: i + 1 }]],
        then: [set('units', i + 2)],
      }),
    )
    world.change(deal, { units: 1 })
    const reports = world.drain(rules)
    expect(reports.filter((report) => report.state === 'done')).toHaveLength(DEPTH_MOST)
    expect(reports.at(-1)?.stop).toEqual({ code: 'tooDeep', depth: DEPTH_MOST })
    expect(world.read(deal)?.values.units).toBe(DEPTH_MOST + 1)
  })

  it('lets a rule run again in a chain if it stopped at its conditions before', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, { units: 1 })
    const rules = [
      active(1, {
        when: [['fieldChanges', { field: 'units', how: 'anything', from: null, to: null }]],
        onlyIf: all(condition('units', 'moreThan', { value: 2 })),
        then: [set('notes', 'now')],
      }),
      active(2, {
        when: [['fieldChanges', { field: 'units', how: 'to', from: null, to: 2 }]],
        then: [set('units', 3)],
      }),
    ]
    world.change(deal, { units: 2 })
    expect(world.drain(rules).map((report) => [report.ruleId, report.state])).toEqual([
      [1, 'stopped'],
      [2, 'done'],
      [1, 'done'],
    ])
  })

  it('skips a step with its reason and goes on', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, { stage: 'enq-fresh', owner: null })
    const rules = [
      active(1, {
        when: [['fieldChanges', { field: 'units', how: 'filled', from: null, to: null }]],
        then: [move('hp-quoted'), task('Nobody'), set('notes', 'after')],
      }),
    ]
    world.change(deal, { units: 1 })
    const [report] = world.drain(rules)
    expect(report?.state).toBe('done')
    expect(report?.steps).toMatchObject([
      { state: 'skipped', reason: { code: 'otherPipeline', pipeline: 'Enquiries' } },
      { state: 'skipped', reason: { code: 'nobody' } },
      { state: 'done' },
    ])
  })

  it('fails the run at the step that fails; what was done before stays', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, {})
    const rules = [
      active(1, {
        when: [['fieldChanges', { field: 'units', how: 'filled', from: null, to: null }]],
        then: [set('notes', 'kept'), set('gone', 1), set('notes', 'never')],
      }),
    ]
    world.change(deal, { units: 1 })
    const [report] = world.drain(rules)
    expect(report).toMatchObject({
      state: 'failed',
      steps: [{ state: 'done' }, { state: 'failed', reason: { code: 'unknownField', field: 'gone' } }],
    })
    expect(world.read(deal)?.values.notes).toBe('kept')
  })

  it('rolls a run back that meets the unforeseen, keeps it as failed, and lets the next rule run', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, { owner: 'rosa' })
    const rules = [
      active(1, { when: [enters('hp-quoted')], then: [task('Rolled back'), set('notes', 'x')] }),
      active(2, { when: [enters('hp-quoted')], then: [task('Still made')] }),
    ]
    world.change(deal, { stage: 'hp-quoted' })
    world.broken = (ref) => ref.id === 1
    const reports = world.drain(rules)
    expect(reports.map((report) => report.state)).toEqual(['failed', 'done'])
    expect(reports[0]?.steps).toEqual([{ state: 'failed', reason: { code: 'unexpected', reason: 'disk I/O error' } }])
    expect(world.state.tasks.map((one) => one.title)).toEqual(['Still made'])
  })

  it('does not make the same task again while it is open, unless told to', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, { owner: 'rosa' })
    const rules = [
      active(1, { when: [enters('hp-quoted')], then: [task('Ring')] }),
      active(2, { when: [enters('hp-quoted')], then: [task('Again', { again: true })] }),
    ]
    for (const stage of ['hp-quoted', 'hp-sized', 'hp-quoted']) {
      world.change(deal, { stage })
      world.drain(rules)
    }
    expect(world.state.tasks.map((one) => one.title).sort()).toEqual(['Again', 'Again', 'Ring'])
  })

  it('leaves events alone that were made with rules off', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, {})
    world.change(deal, { stage: 'hp-quoted' })
    const matcher = new Matcher([active(1, { when: [enters('hp-quoted')], then: [set('units', 1)] })], catalogue)
    const event = world.state.events.at(-1)!
    expect(handleEvent(world, matcher, { ...event, rulesOff: true })).toEqual([])
    expect(handleEvent(world, matcher, event)).toHaveLength(1)
  })

  it('keeps one message under one key for each run and step', () => {
    const world = new TestWorld()
    const deal = world.add('deal', 1, { owner: 'rosa' })
    const rules = [active(1, { when: [enters('hp-quoted')], then: [task('Ring', { email: true })] })]
    world.change(deal, { stage: 'hp-quoted' })
    world.drain(rules)
    expect([...world.state.messages]).toMatchObject([
      ['run-1-s1', { channel: 'mail', recipient: 'rosa@larkmoor.example', subject: 'Ring', body: 'Due 26 Nov 2026.' }],
    ])
  })
})

describe('what a rule may overwrite', () => {
  const tier = (value: string, keepByHand = true) =>
    ['setField', { field: 'fitTier', source: { from: 'value', value }, keepByHand }] as const
  const rules = [
    active(1, {
      object: 'company',
      when: [['fieldChanges', { field: 'sector', how: 'to', from: null, to: 'bakery' }]],
      then: [tier('a')],
    }),
    active(2, {
      object: 'company',
      when: [['fieldChanges', { field: 'sector', how: 'to', from: null, to: 'clinic' }]],
      then: [tier('b')],
    }),
  ]

  it('writes over what rules wrote, and leaves what a person set, saying so', () => {
    const world = new TestWorld()
    const company = world.add('company', 1, { name: 'Lund' })
    const sector = (value: string) => {
      world.change(company, { sector: value })
      return world.drain(rules).flatMap((report) => report.steps)
    }
    sector('bakery')
    expect(sector('clinic')).toMatchObject([{ state: 'done' }])
    expect(world.read(company)?.values.fitTier).toBe('b')
    world.change(company, { fitTier: 'c' })
    expect(sector('bakery')).toEqual([
      { state: 'skipped', reason: { code: 'setByHand', field: 'Fit tier', value: 'C' } },
    ])
    // Emptied by hand there is nothing to protect.
    world.change(company, { fitTier: null })
    expect(sector('clinic')).toMatchObject([{ state: 'done' }])
  })
})

describe('what conditions can see', () => {
  it('linked records as they are, and the value before the change that started the run', () => {
    const world = new TestWorld()
    const company = world.add('company', 1, { name: 'Lund', fitTier: 'b' })
    const deal = world.add('deal', 1, { amount: 100 })
    world.link(deal, company)
    world.drain([])
    const rules = [
      active(1, {
        when: [['fieldChanges', { field: 'amount', how: 'anything', from: null, to: null }]],
        onlyIf: all(
          {
            kind: 'linked',
            id: 'l1',
            object: 'company',
            how: 'main',
            count: 2,
            group: { ...all(condition('fitTier', 'is', { value: 'a' })), id: 'g1' },
          },
          { ...condition('amount', 'lessThan', { value: 200 }), at: 'before' },
        ),
        then: [set('units', 1)],
      }),
    ]
    const amount = (value: number) => {
      world.change(deal, { amount: value })
      return world.drain(rules).map((report) => report.state)
    }
    expect(amount(500)).toEqual(['stopped'])
    expect(world.state.runs[0]?.end?.seen.map((seen) => [seen.value, seen.holds])).toEqual([
      ['its only company doesn’t match', false],
      ['€100', true],
    ])
    world.change(company, { fitTier: 'a' })
    // It was 500 before this change.
    expect(amount(100)).toEqual(['stopped'])
    expect(amount(900)).toEqual(['done'])
  })
})
