import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { move, set, task, document, type StepLine } from '../../core/testing/rules'
import type { Values } from '../../core/language/value'
import type { RecordRef } from '../../core/records/kinds'
import { larkmoor, switchOn } from '../testing/workspace'
import { deal } from './derived.setting'
import { deleteRecord } from './going'
import { startByHand } from './start-by-hand'
import { undoOne, undoPlan } from './undo'
import type { Workspace } from './workspace'

const LABELS = ['urgent', 'press', 'reference-customer']
const STAGES = ['hp-visit', 'hp-sized', 'hp-quoted', 'hp-terms']
/** What a person can have written, and a rule can write. */
const FIELDS = ['units', 'notes', 'amount', 'labels', 'stage'] as const

const step: fc.Arbitrary<StepLine> = fc.oneof(
  fc.integer({ min: 0, max: 9 }).map((count): StepLine => set('units', count)),
  fc.constantFrom('a', 'b').map((text): StepLine => set('notes', text)),
  fc
    .integer({ min: 1, max: 5 })
    .map((value): StepLine => ['setField', { field: 'amount', source: { from: 'add', value } }]),
  fc.constant<StepLine>(['setField', { field: 'amount', source: { from: 'empty' } }]),
  fc.constant<StepLine>(['setField', { field: 'amount', source: { from: 'field', field: 'units' } }]),
  fc
    .record({ how: fc.constantFrom('add', 'remove'), labels: fc.subarray(LABELS, { minLength: 1 }) })
    .map((params): StepLine => ['changeLabels', { ...params, field: 'labels' }]),
  fc.constantFrom(...STAGES).map((stage): StepLine => move(stage)),
  fc.constantFrom('Ring', 'Write').map((title): StepLine => task(title, { again: true })),
)
const steps = fc.array(step, { minLength: 1, maxLength: 6 })
const byHand = fc.record(
  {
    units: fc.integer({ min: 10, max: 99 }),
    notes: fc.constantFrom('by hand', null),
    labels: fc.subarray(LABELS),
    stage: fc.constantFrom(...STAGES),
  },
  { requiredKeys: [] },
)

const isIn = (workspace: Workspace, ref: RecordRef): Values => {
  const { values } = workspace.store.records.read(ref)!
  return Object.fromEntries(
    FIELDS.map((field) => [field, Array.isArray(values[field]) ? [...values[field]].sort() : (values[field] ?? null)]),
  )
}
const open = (workspace: Workspace, ref: RecordRef) =>
  workspace.store.tasks.ofRecord(ref).filter((one) => workspace.store.tasks.standing(one.id)?.open).length
const button = (then: readonly StepLine[], name: string) =>
  document({ when: [['byHand', { button: name, facts: [], questions: [] }]], then }, name)
function press(workspace: Workspace, ruleId: number, ref: RecordRef): number {
  const { report } = startByHand(workspace, ref, { ruleId, triggerId: 't1', answers: {} }, 'rosa')
  return report!.runId
}
const start = (workspace: Workspace) => deal(workspace, { units: 1, labels: ['press'], amount: 100 })

describe('taking back, whatever a rule did', () => {
  it('leaves the record as it was before, with no task of the run open', () => {
    const { workspace } = larkmoor()
    fc.assert(
      fc.property(steps, (then) => {
        const rule = switchOn(workspace, button(then, 'Does things'))
        const ref = start(workspace)
        const before = isIn(workspace, ref)
        const run = press(workspace, rule, ref)
        const plan = undoOne(workspace, run, 'ines')
        expect(isIn(workspace, ref)).toEqual(before)
        expect(open(workspace, ref)).toBe(0)
        expect(plan?.left).toEqual([])
        workspace.store.rules.setState(rule, 'off', 'ines', 0)
        workspace.rulesChanged()
      }),
      { numRuns: 60, endOnFailure: true },
    )
  })

  it('of several runs, the newest first, leads back to the beginning', () => {
    const { workspace } = larkmoor()
    fc.assert(
      fc.property(fc.array(steps, { minLength: 2, maxLength: 4 }), (several) => {
        const rules = several.map((then, i) => switchOn(workspace, button(then, `Does things ${i}`)))
        const ref = start(workspace)
        const before = isIn(workspace, ref)
        const runs = rules.map((rule) => press(workspace, rule, ref))
        for (const run of runs.toReversed()) undoOne(workspace, run, 'ines')
        expect(isIn(workspace, ref)).toEqual(before)
        expect(open(workspace, ref)).toBe(0)
        for (const rule of rules) workspace.store.rules.setState(rule, 'off', 'ines', 0)
        workspace.rulesChanged()
      }),
      { numRuns: 30, endOnFailure: true },
    )
  })

  it('never touches what a person wrote since, and says so where it would have', () => {
    const { workspace } = larkmoor()
    fc.assert(
      fc.property(steps, byHand, (then, values) => {
        const rule = switchOn(workspace, button(then, 'Does things'))
        const ref = start(workspace)
        const before = isIn(workspace, ref)
        const run = press(workspace, rule, ref)
        const after = isIn(workspace, ref)
        workspace.change(ref, values, 'rosa')
        const then_ = isIn(workspace, ref)
        undoOne(workspace, run, 'ines')
        const now = isIn(workspace, ref)
        for (const field of ['units', 'notes', 'stage'] as const) {
          const written = field in values && JSON.stringify(after[field]) !== JSON.stringify(then_[field])
          expect([field, now[field]]).toEqual([field, written ? then_[field] : before[field]])
        }
        expect(now.amount).toEqual(before.amount)
        workspace.store.rules.setState(rule, 'off', 'ines', 0)
        workspace.rulesChanged()
      }),
      { numRuns: 60, endOnFailure: true },
    )
  })

  it('happens once: what was taken back is not planned again', () => {
    const { workspace } = larkmoor()
    const rule = switchOn(workspace, button([set('units', 5)], 'Five'))
    const ref = start(workspace)
    const run = press(workspace, rule, ref)
    expect(undoPlan(workspace, run)?.writes).toMatchObject([{ ref, values: { units: 1 }, say: 'units back to 1' }])
    undoOne(workspace, run, 'ines')
    workspace.change(ref, { units: 5 }, 'rosa')
    expect(undoPlan(workspace, run)).toBeNull()
    expect(undoOne(workspace, run, 'ines')).toBeNull()
    expect(isIn(workspace, ref).units).toBe(5)
    expect(undoPlan(workspace, run + 1000)).toBeNull()
  })

  it('a value that came to be the same by hand is somebody’s own now', () => {
    const { workspace } = larkmoor()
    const rule = switchOn(workspace, button([set('units', 5)], 'Five'))
    const ref = start(workspace)
    const run = press(workspace, rule, ref)
    workspace.change(ref, { units: 7 }, 'rosa')
    workspace.change(ref, { units: 5 }, 'rosa')
    expect(undoPlan(workspace, run)).toMatchObject({ writes: [], left: ['units has a newer value, 5'] })
  })

  it('a record that is gone by now is named, and nothing is written', () => {
    const { workspace } = larkmoor()
    const rule = switchOn(workspace, button([set('units', 5), task('Ring')], 'Five'))
    const ref = start(workspace)
    const run = press(workspace, rule, ref)
    deleteRecord(workspace, ref, 'rosa')
    const plan = undoPlan(workspace, run)
    expect(plan?.writes).toEqual([])
    expect(plan?.left.some((line) => line.includes('units'))).toBe(true)
    expect(() => undoOne(workspace, run, 'ines')).not.toThrow()
    expect(workspace.store.records.read(ref)).toBeNull()
  })
})
