import { describe, expect, it } from 'vitest'
import type { RuleDocument } from '../../core/rules/document'
import { checkRule } from '../../core/rules/check'
import { readRule } from '../../core/rules/schema'
import { document, set, task, type StepLine } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { deal, titles } from './derived.setting'
import { retry } from './retry'
import { undoOne, undoPlan } from './undo'
import type { Workspace } from './workspace'

const START = ['fieldChanges', { field: 'notes', how: 'anything', from: null, to: null }] as const
const making = (params: object, ...then: StepLine[]): RuleDocument =>
  document(
    {
      when: [START],
      then: [
        [
          'createRecord',
          { make: 'deal', name: '{{deal.name}}, next', stage: 'hp-visit', again: false, ...params },
          [null, ...then],
        ],
        task('Behind'),
      ],
    },
    'Next one',
  )
const dealsOf = (workspace: Workspace) =>
  [...workspace.store.records.from('deal', 0, null)].map(({ values }) => [values.name, values.units, values.owner])

describe('a record that a rule makes', () => {
  it('has steps of its own, and those behind go on with the record of the run', () => {
    const { workspace } = larkmoor()
    const rule = making({ beside: 'none' }, set('units', 7), set('owner', 'jude'), task('For the new one'))
    switchOn(workspace, rule)
    const ref = deal(workspace, { name: 'Room' })
    workspace.change(ref, { notes: 'go 1' }, 'ines')
    expect(dealsOf(workspace)).toEqual([
      ['Room', null, 'rosa'],
      ['Room, next', 7, 'jude'],
    ])
    expect(titles(workspace)).toEqual(['For the new one', 'Behind'])
    const [made, behind] = [...workspace.store.tasks.list({ people: null, before: null, limit: 9 })].reverse()
    expect([made?.recordId, behind?.recordId]).toEqual([ref.id + 1, ref.id])
  })

  it('goes again when the run is undone, with what the run did to it, but not what somebody else did', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, making({ beside: 'none' }, set('units', 7), task('For the new one')))
    const ref = deal(workspace, { name: 'Room' })
    workspace.change(ref, { notes: 'go 1' }, 'ines')
    const [run] = workspace.store.runs.list({ limit: 5 })
    expect(undoPlan(workspace, run!.id)?.remove).toHaveLength(1)
    workspace.change({ object: 'deal', id: ref.id + 1 }, { amount: 5 }, 'rosa')
    expect(undoPlan(workspace, run!.id)).toMatchObject({ remove: [], left: ['“Room, next” has changed since'] })
    workspace.change(ref, { notes: 'go 2' }, 'ines')
    const [second] = workspace.store.runs.list({ limit: 1 })
    undoOne(workspace, second!.id, 'ines')
    expect(dealsOf(workspace)).toHaveLength(2)
  })

  it('is not made twice when the run is tried again behind it', () => {
    const { workspace } = larkmoor()
    const fails: StepLine = [
      'setField',
      { field: 'margin', source: { from: 'formula', text: 'amount / units', clears: false } },
    ]
    switchOn(workspace, making({ beside: 'none' }, set('amount', 100), set('units', 0), fails))
    const ref = deal(workspace, { name: 'Room' })
    workspace.change(ref, { notes: 'go 1' }, 'ines')
    const [run] = workspace.store.runs.list({ limit: 1 })
    expect([run?.state, dealsOf(workspace).length]).toEqual(['failed', 2])
    workspace.change({ object: 'deal', id: ref.id + 1 }, { units: 4 }, 'rosa')
    retry(workspace, run!.id, 'ines')
    expect(workspace.store.runs.get(run!.id)?.state).toBe('done')
    expect(workspace.store.records.read({ object: 'deal', id: ref.id + 1 })?.values.margin).toBe(25)
    expect(dealsOf(workspace)).toHaveLength(2)
  })

  it('may not wait inside: the new record is not the one of the run', () => {
    const waits: StepLine = [
      'wait',
      { until: { at: 'after', amount: { count: 1, unit: 'days' }, minute: null }, recheck: true },
    ]
    const { workspace } = larkmoor()
    const finding = checkRule(making({}, waits), workspace.catalogue()).find(
      ({ problem }) => problem.code === 'cannotWait',
    )
    expect(finding?.part).toBe('step')
  })

  it('is kept away by an open deal of the company, the contact, or neither, and by those of the same kind only', () => {
    for (const [params, other, made] of [
      [{ beside: 'company' }, { company: true }, 0],
      [{ beside: 'company' }, { contact: true }, 1],
      [{ beside: 'contact' }, { contact: true }, 0],
      [{ beside: 'either' }, { contact: true }, 0],
      [{ beside: 'none' }, { company: true }, 1],
      [{ beside: 'company' }, { company: true, stage: 'hp-lost' }, 1],
      [{ beside: 'company', alike: 'kind' }, { company: true, kind: 'service' }, 1],
      [{ beside: 'company', alike: 'kind' }, { company: true, kind: 'hire' }, 0],
      [{ beside: 'company', alike: 'gone' }, { company: true, kind: 'service' }, 0],
    ] as const) {
      const { workspace } = larkmoor()
      const [firm, person] = (['company', 'contact'] as const).map(
        (object) => workspace.create(object, { name: object, owner: 'rosa' }, [], 'ines').ref,
      )
      const { company, contact, ...values }: { company?: boolean; contact?: boolean; stage?: string; kind?: string } =
        other
      deal(workspace, values, [...(company ? [firm!] : []), ...(contact ? [person!] : [])])
      const ref = deal(workspace, { name: 'Mine', kind: 'hire' }, [firm!, person!])
      switchOn(workspace, making(params))
      workspace.change(ref, { notes: 'go 1' }, 'ines')
      const found = dealsOf(workspace).filter(([name]) => name === 'Mine, next')
      expect(found, JSON.stringify([params, other])).toHaveLength(made)
    }
  })

  it('of a rule written before has its path as well', () => {
    const before = making({})
    const old = { ...before, steps: before.steps.map(({ branches: _none, ...step }) => step) }
    const read = readRule(JSON.parse(JSON.stringify(old)))
    expect(read.ok && read.value.steps[0]?.branches).toEqual([{ id: 's1-made', steps: [] }])
  })
})
