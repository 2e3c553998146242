import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { catalogue, moment } from '../../testing/setting'
import { active, all, condition, move, set, task, type StepLine } from '../../testing/rules'
import { TestWorld } from '../../testing/world'
import type { ActiveRule } from '../../engine/matcher'
import type { Condition } from '../../conditions/document'
import type { TriggerName } from '../triggers'
import { heldAfter, startedBy, touchesOf } from './touches'

const STAGES = ['hp-visit', 'hp-sized', 'hp-quoted', 'hp-terms'] as const
const LABELS = ['urgent', 'press', 'reference-customer']
const number = fc.integer({ min: 0, max: 4 })

/** Steps of which each writes another field, so that what one writes stands when others are asked. */
const steps: fc.Arbitrary<readonly StepLine[]> = fc
  .record({
    units: fc.option(number),
    amount: fc.option(fc.oneof(number, fc.constantFrom('empty', 'add', 'copy'))),
    notes: fc.option(fc.constantFrom('a', 'b')),
    stage: fc.option(fc.constantFrom(...STAGES)),
    labels: fc.option(
      fc.record({ how: fc.constantFrom('add', 'remove'), labels: fc.subarray(LABELS, { minLength: 1 }) }),
    ),
  })
  .map(({ units, amount, notes, stage, labels }) => [
    ...(units === null ? [] : [set('units', units)]),
    ...(amount === null ? [] : [amountStep(amount)]),
    ...(notes === null ? [] : [set('notes', notes)]),
    ...(labels === null ? [] : [['changeLabels', { ...labels, field: 'labels' }] as const]),
    ...(stage === null ? [] : [move(stage)]),
  ])
  .filter((some) => some.length > 0)
function amountStep(amount: number | string): StepLine {
  if (typeof amount === 'number') return set('amount', amount)
  if (amount === 'empty') return ['setField', { field: 'amount', source: { from: 'empty' } }]
  if (amount === 'add') return ['setField', { field: 'amount', source: { from: 'add', value: 1 } }]
  return ['setField', { field: 'amount', source: { from: 'field', field: 'margin' } }]
}

const fieldChange = fc.oneof(
  fc.record({
    field: fc.constantFrom('units', 'amount'),
    how: fc.constantFrom('anything', 'to', 'fromTo', 'filled', 'emptied', 'up', 'down', 'past', 'below'),
    from: number,
    to: number,
  }),
  fc.record({
    field: fc.constant('notes'),
    how: fc.constantFrom('anything', 'to', 'fromTo', 'filled', 'emptied'),
    from: fc.constantFrom('a', 'b'),
    to: fc.constantFrom('a', 'b'),
  }),
)
const trigger: fc.Arbitrary<readonly [TriggerName, object]> = fc.oneof(
  fieldChange.map((params) => ['fieldChanges', params] as const),
  fc.constantFrom(...STAGES).map((stage) => ['entersStage', { stage }] as const),
  fc.constantFrom(...STAGES).map((stage) => ['leavesStage', { stage }] as const),
  fc
    .record({ how: fc.constantFrom('added', 'removed'), labels: fc.subarray(LABELS, { minLength: 1 }) })
    .map((params) => ['labelChanges', { field: 'labels', ...params }] as const),
  fc.constantFrom('changed' as const, 'createdOrChanged' as const).map((kind) => [kind, {}] as const),
)
const only: fc.Arbitrary<Condition> = fc.oneof(
  fc
    .record({
      field: fc.constantFrom('units', 'amount'),
      op: fc.constantFrom('moreThan' as const, 'lessThan' as const),
      value: number,
    })
    .map(({ field, op, value }) => condition(field, op, { value })),
  fc.constantFrom(...STAGES).chain((value) => fc.boolean().map((not) => condition('stage', 'is', { value }, not))),
  fc.boolean().map((not) => condition('notes', 'isEmpty', {}, not)),
)
const values = fc.record({
  units: fc.option(number),
  amount: fc.option(number),
  margin: fc.option(number),
  notes: fc.option(fc.constantFrom('a', 'b', 'c')),
  labels: fc.subarray(LABELS),
  stage: fc.constantFrom('hp-visit', 'hp-sized'),
})

/** Whether the second rule would be said to be started by the first, by reading them. */
function said(first: ActiveRule, second: ActiveRule): boolean {
  const held = heldAfter(first.document.triggers)
  return touchesOf(first.document, catalogue).some(
    (touch) => startedBy(touch, touch.object === 'deal' ? held : {}, second.document, catalogue, moment) !== null,
  )
}

/** Whether it starts, for a deal that holds such values. */
function starts(first: ActiveRule, second: ActiveRule, holds: Parameters<TestWorld['add']>[2]): boolean {
  const world = new TestWorld()
  const deal = world.add('deal', 1, { ...holds, owner: 'rosa' })
  world.position = world.events.length
  world.change(deal, { siteVisit: '2026-12-01' })
  world.drain([first, second])
  return world.runs.some(({ run, end }) => {
    const event = world.events.find(({ seq }) => seq === run.eventSeq)
    return run.ruleId === 2 && event?.cause.by === 'rule' && end?.stop?.code !== 'conditions'
  })
}

const visited = ['fieldChanges', { field: 'siteVisit', how: 'filled', from: null, to: null }] as const

describe('what one rule starts of another, by reading them', () => {
  it('misses nothing that happens', () => {
    let started = 0
    fc.assert(
      fc.property(steps, trigger, fc.option(only), values, (then, when, onlyIf, holds) => {
        const first = active(1, { when: [visited], then })
        const second = active(2, { when: [when], onlyIf: all(...(onlyIf ? [onlyIf] : [])), then: [task('Ring')] })
        if (!starts(first, second, holds)) return
        started++
        expect(said(first, second)).toBe(true)
      }),
      { numRuns: 1500, endOnFailure: true },
    )
    // Otherwise it would hold of nothing.
    expect(started).toBeGreaterThan(100)
  })

  it('and says nothing of what cannot be: another value, another label, another kind of record', () => {
    const first = (...then: readonly StepLine[]) => active(1, { when: [visited], then })
    const second = (when: readonly [TriggerName, object], onlyIf = all()) =>
      active(2, { when: [when], onlyIf, then: [task('Ring')] })
    const becomes = (to: number) => ['fieldChanges', { field: 'units', how: 'to', from: null, to }] as const
    expect(said(first(set('units', 3)), second(becomes(4)))).toBe(false)
    expect(said(first(set('units', 3)), second(becomes(3)))).toBe(true)
    expect(said(first(set('amount', 3)), second(becomes(3)))).toBe(false)
    const withMore = all(condition('units', 'moreThan', { value: 10 }))
    expect(said(first(set('units', 3)), second(becomes(3), withMore))).toBe(false)
    const adds = ['changeLabels', { how: 'add', labels: ['press'], field: 'labels' }] as const
    const label = (label: string) => ['labelChanges', { field: 'labels', how: 'added', labels: [label] }] as const
    expect(said(first(adds), second(label('press')))).toBe(true)
    expect(said(first(adds), second(label('urgent')))).toBe(false)
    const contacts = active(2, { object: 'contact', when: [['changed', {}]], then: [task('Ring')] })
    expect(said(first(set('units', 3)), contacts)).toBe(false)
  })

  it('goes by what a trigger says of the record, where all triggers agree', () => {
    const enters = (stage: string) => ({ id: stage, kind: 'entersStage', params: { stage } }) as const
    expect(heldAfter([enters('hp-quoted')])).toEqual({ stage: 'hp-quoted' })
    expect(heldAfter([enters('hp-quoted'), enters('hp-terms')])).toEqual({})
    expect(heldAfter([enters('hp-quoted'), enters('hp-quoted')])).toEqual({ stage: 'hp-quoted' })
    expect(heldAfter([])).toEqual({})
    // A deal that is in the stage already does not come into it.
    const moves = active(1, { when: [['entersStage', { stage: 'hp-quoted' }]], then: [move('hp-quoted')] })
    const entered = active(2, { when: [['entersStage', { stage: 'hp-quoted' }]], then: [task('Ring')] })
    expect(said(moves, entered)).toBe(false)
  })
})
