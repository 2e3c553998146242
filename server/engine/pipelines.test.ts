import { describe, expect, it } from 'vitest'
import { all, condition, document, enters, set } from '../../core/testing/rules'
import type { RecordRef } from '../../core/records/kinds'
import { larkmoor, switchOn } from '../testing/workspace'
import { refusal } from '../testing/refusal'
import { board } from '../views/board'
import { journalPage } from '../views/journal'
import { pipelineSheet } from '../views/pipeline-sheet'
import { recordPage } from '../views/record'
import { fieldPast } from '../views/why'
import { addChoice, changeChoice, changeField, fieldOf, removeChoice } from './fields'
import { addStage, changePipeline, changeStage, makePipeline, removeStage } from './pipelines'
import { makeSegment } from './segments'
import { RefusedError, type Workspace } from './workspace'

const stage = (workspace: Workspace, id: string) => workspace.catalogue().stage(id)!
const deal = (workspace: Workspace, values: object): RecordRef =>
  workspace.create('deal', { name: 'Room', stage: 'hp-sized', ...values }, [], 'ines').ref

describe('pipelines', () => {
  it('are made, renamed and ordered; deals can go there at once, in every thread', () => {
    const { workspace, reopen } = larkmoor()
    const other = reopen()
    const id = makePipeline(workspace, 'Spare parts', [
      { name: 'Asked', outcome: 'open' },
      { name: 'Sent', outcome: 'won' },
    ])
    changePipeline(workspace, workspace.catalogue().pipeline(id)!, { name: 'Parts', before: 'hp' })
    other.keepUp()
    expect(other.catalogue().pipelines.map((one) => one.name)).toEqual([
      'Enquiries',
      'Parts',
      'Hire & purchase',
      'Renewals',
    ])
    const ref = deal(workspace, { stage: 'spare-parts-asked' })
    expect(workspace.store.records.read(ref)?.values.pipeline).toBe(id)
    expect(refusal(() => makePipeline(workspace, 'PARTS', [{ name: 'A', outcome: 'open' }]))).toBe(
      'name: A pipeline named “Parts” already exists.',
    )
    expect(
      refusal(() =>
        makePipeline(workspace, 'More', [
          { name: 'A', outcome: 'open' },
          { name: 'a', outcome: 'won' },
        ]),
      ),
    ).toBe('stages: Two stages are the same.')
    expect(refusal(() => changePipeline(workspace, workspace.catalogue().pipeline(id)!, { before: 'gone' }))).toBe(
      'before: “gone” does not exist.',
    )
  })

  it('have stages that are added, renamed, ordered, and say what they count as', () => {
    const { workspace } = larkmoor()
    const hp = () => workspace.catalogue().pipeline('hp')!
    const id = addStage(workspace, hp(), { name: 'On hold', outcome: 'open', probability: 20 })
    changeStage(workspace, stage(workspace, id), {
      name: 'Parked',
      outcome: 'lost',
      probability: null,
      before: 'hp-sized',
    })
    expect(hp().stages.map((one) => one.name)).toEqual([
      'Site visit',
      'Parked',
      'Sized',
      'Quoted',
      'Terms',
      'Signed',
      'Lost',
    ])
    expect(stage(workspace, id)).toMatchObject({ outcome: 'lost', probability: null })
    expect(refusal(() => changeStage(workspace, stage(workspace, id), { name: 'QUOTED' }))).toBe(
      'name: Hire & purchase already has a stage “Quoted”.',
    )
    // A condition on what a stage counts as follows at once.
    const ref = deal(workspace, { stage: id })
    const lost = () =>
      workspace.store.records
        .matching(
          'deal',
          workspace.store.records.where(
            all(condition('stage', 'standing', { outcome: 'lost' })),
            'deal',
            workspace.catalogue(),
            workspace.moment(),
          ),
          5,
        )
        .map((record) => record.id)
    expect(lost()).toEqual([ref.id])
    changeStage(workspace, stage(workspace, id), { outcome: 'open' })
    expect(lost()).toEqual([])
  })

  it('lose a stage only when nothing names it, and its deals have somewhere to go; the past keeps its name', () => {
    const { workspace } = larkmoor()
    const rule = switchOn(workspace, document({ when: [enters('hp-terms')], then: [set('units', 9)] }, 'On terms'))
    const ref = deal(workspace, { stage: 'hp-quoted' })
    expect(refusal(() => removeStage(workspace, stage(workspace, 'hp-terms'), null, 'ines'))).toBe(
      ': “Terms” can’t be removed: it is used by rule “On terms”. Remove it there first.',
    )
    const segment = makeSegment(
      workspace,
      {
        object: 'deal',
        name: 'Quoted ones',
        filter: all(condition('stage', 'is', { value: 'hp-quoted' })),
        columns: [],
        sort: 'name',
        down: false,
      },
      'ines',
    )
    expect(refusal(() => removeStage(workspace, stage(workspace, 'hp-quoted'), 'hp-terms', 'ines'))).toBe(
      ': “Quoted” can’t be removed: it is used by segment “Quoted ones”. Remove it there first.',
    )
    workspace.store.segments.remove(segment)
    expect(refusal(() => removeStage(workspace, stage(workspace, 'hp-quoted'), null, 'ines'))).toBe(
      'to: 1 deal is in this stage. Choose where to move it.',
    )
    expect(refusal(() => removeStage(workspace, stage(workspace, 'hp-quoted'), 'hp-quoted', 'ines'))).toBe(
      'to: Choose another stage.',
    )
    expect(removeStage(workspace, stage(workspace, 'hp-quoted'), 'hp-terms', 'jude')).toEqual({ moved: 1 })
    // Rules did not look at the move, and the stage is nowhere to be chosen.
    expect(workspace.store.records.read(ref)?.values).toMatchObject({ stage: 'hp-terms', units: null })
    expect(workspace.store.runs.list({ ruleId: rule, limit: 5 })).toEqual([])
    expect([
      workspace.catalogue().stage('hp-quoted'),
      JSON.stringify(board(workspace, 'hp', null, null)).includes('hp-quoted'),
    ]).toEqual([null, false])
    expect(() => workspace.change(ref, { stage: 'hp-quoted' }, 'ines')).toThrow(RefusedError)
    expect(
      fieldPast(workspace, ref, 'stage')?.changes.map((change) => [change.old, change.new, change.doer.name]),
    ).toEqual([
      ['Quoted', 'Terms', 'Jude Okell'],
      ['empty', 'Quoted', 'Ines Calloway'],
    ])
    expect(recordPage(workspace, ref)?.timeline[0]).toMatchObject({ changes: [{ old: 'Quoted', new: 'Terms' }] })
    expect(pipelineSheet(workspace).stages['hp-terms']).toEqual({
      deals: 1,
      rules: [{ ruleId: rule, name: 'On terms' }],
    })
  })
})

describe('choices that leave a list', () => {
  it('are merged into another one; the past keeps their word, and a new one may be called the same', () => {
    const { workspace } = larkmoor()
    const kind = () => fieldOf(workspace, workspace.catalogue().field('deal', 'kind')!.id)!
    const ref = deal(workspace, { kind: 'hire' })
    const rule = switchOn(
      workspace,
      document(
        { when: [['fieldChanges', { field: 'kind', how: 'to', from: null, to: 'hire' }]], then: [set('units', 1)] },
        'Hired',
      ),
    )
    expect(refusal(() => removeChoice(workspace, kind(), 'hire', 'service', 'ines'))).toBe(
      ': “Hire” can’t be removed: it is used by rule “Hired”. Remove it there first.',
    )
    workspace.store.rules.setState(rule, 'archived', 'ines', 1)
    expect(refusal(() => removeChoice(workspace, kind(), 'hire', null, 'ines'))).toBe(
      'into: 1 record has this choice. Choose a replacement.',
    )
    expect(refusal(() => removeChoice(workspace, kind(), 'hire', 'gone', 'ines'))).toBe('into: Choose another choice.')
    expect(removeChoice(workspace, kind(), 'hire', 'service', 'ines')).toEqual({ changed: 1 })
    expect(workspace.store.records.read(ref)?.values.kind).toBe('service')
    expect(kind().choices.map((choice) => choice.label)).toEqual(['Purchase', 'Service'])
    expect(fieldPast(workspace, ref, 'kind')?.changes[0]).toMatchObject({ old: 'Hire', new: 'Service' })
    expect(addChoice(workspace, kind(), 'Hire')).toEqual({ id: 'hire-2', added: true })
  })
})

describe('what happened under an older name', () => {
  it('is told by the name of then: stages, choices and fields, in the record’s past and in the journal', () => {
    const { workspace, clock } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [set('kind', 'hire')] }, 'Quoted'))
    const ref = workspace.create('deal', { name: 'Room', stage: 'hp-sized', kind: 'purchase' }, [], 'ines').ref
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    const kind = workspace.catalogue().field('deal', 'kind')!
    for (const name of ['Offered', 'Priced']) {
      clock.set(clock.nowMs() + 60_000)
      changeStage(workspace, workspace.catalogue().stage('hp-quoted')!, { name })
    }
    changeChoice(workspace, kind, 'hire', { label: 'Rent' })
    changeField(workspace, fieldOf(workspace, kind.id)!, { label: 'What it is' })
    const past = () =>
      recordPage(workspace, ref)!.timeline.flatMap((entry) =>
        entry.what === 'change' ? entry.changes.map((one) => `${one.label}: ${one.old} → ${one.new}`) : [],
      )
    expect(past()).toContain('Stage: Sized → Quoted')
    expect(past()).toContain('Kind: Purchase → Hire')
    expect(journalPage(workspace, { limit: 1 }).lines[0]?.outcome).toBe('kind: Purchase → Hire')
    clock.set(clock.nowMs() + 60_000)
    workspace.change(ref, { stage: 'hp-sized', kind: 'service' }, 'rosa')
    expect(past()).toContain('Stage: Priced → Sized')
    expect(past()).toContain('What it is: Rent → Service')
    expect(fieldPast(workspace, ref, 'kind')?.changes.map((one) => one.new)).toEqual(['Service', 'Hire', 'Purchase'])
  })
})
