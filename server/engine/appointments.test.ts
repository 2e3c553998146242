import { describe, expect, it } from 'vitest'
import { newDid } from '../../core/conditions/did'
import type { Did } from '../../core/conditions/document'
import { all, condition, document, given, task } from '../../core/testing/rules'
import type { RecordRef } from '../../core/records/kinds'
import type { Values } from '../../core/language/value'
import { tellActivities } from './activities'
import { larkmoor, switchOn } from '../testing/workspace'
import { addMissingFields } from './set-up'
import type { Workspace } from './workspace'

const HOUR_MS = 3_600_000
const DAY_MS = 24 * HOUR_MS

const person = (workspace: Workspace, name: string): RecordRef =>
  workspace.create('contact', { name, email: `${name}@x.example`, owner: 'rosa' }, [], 'ines').ref
const book = (workspace: Workspace, start: number, ...linkTo: readonly RecordRef[]): RecordRef =>
  workspace.create('appointment', { name: 'Site visit', start, end: start + HOUR_MS, status: 'booked' }, linkTo, 'ines')
    .ref
const did = (workspace: Workspace, ref: RecordRef) =>
  workspace.store.activities.of(ref).map(({ kind, about, data }) => [kind, about, data] as const)
const titles = (workspace: Workspace, ref: RecordRef) => workspace.store.tasks.ofRecord(ref).map((one) => one.title)

describe('an appointment', () => {
  it('is something that its contacts did: booked, moved, missed again, cancelled', () => {
    const { workspace, clock } = larkmoor()
    const ada = person(workspace, 'ada')
    const start = clock.nowMs() + DAY_MS
    const first = book(workspace, start, ada)
    workspace.change(first, { start: start + HOUR_MS }, 'ines')
    workspace.change(first, { status: 'missed' }, 'ines')
    const second = book(workspace, start + 2 * DAY_MS, ada)
    workspace.change(second, { status: 'missed' }, 'ines')
    workspace.change(second, { status: 'booked' }, 'ines')
    workspace.change(second, { status: 'cancelled', place: 'yard' }, 'ines')
    expect(did(workspace, ada)).toEqual([
      ['appointment', 'Site visit', { appointment: first.id, startMs: start, endMs: start + HOUR_MS }],
      [
        'appointmentMoved',
        'Site visit',
        { appointment: first.id, startMs: start + HOUR_MS, endMs: start + HOUR_MS, wasStartMs: start },
      ],
      ['appointmentMissed', 'Site visit', expect.objectContaining({ moved: true, missedBefore: 0 })],
      ['appointment', 'Site visit', expect.objectContaining({ appointment: second.id })],
      ['appointmentMissed', 'Site visit', expect.objectContaining({ moved: false, missedBefore: 1 })],
      ['appointment', 'Site visit', expect.objectContaining({ appointment: second.id })],
      ['appointmentCancelled', 'Site visit', expect.objectContaining({ place: 'yard' })],
    ])
  })

  it('takes a deal of its contact on: and where none is in the first pipeline, nothing goes wrong', () => {
    const { workspace, clock } = larkmoor()
    const [ada, bea] = [person(workspace, 'ada'), person(workspace, 'bea')]
    const deal = workspace.create('deal', { name: 'Cold room', stage: 'enq-talking', owner: 'rosa' }, [ada], 'ines').ref
    const ruleId = switchOn(
      workspace,
      document({
        object: 'deal',
        when: [['activity', { kind: 'appointment', by: 'contact', about: 'site visit', late: false }]],
        onlyIf: all(condition('pipeline', 'is', { value: 'enq' })),
        then: [['moveStage', { stage: 'hp-visit', backwards: false, across: true }]],
      }),
    )
    book(workspace, clock.nowMs() + DAY_MS, ada)
    book(workspace, clock.nowMs() + DAY_MS, bea)
    expect(workspace.store.records.read(deal)?.values.stage).toBe('hp-visit')
    expect(workspace.store.runs.list({ ruleId, limit: 9 }).map((run) => run.state)).toEqual(['done'])
  })

  it('asks of the very one that started the run: missed before, and began yesterday', () => {
    const { workspace, clock } = larkmoor()
    const ada = person(workspace, 'ada')
    const of = (...items: Did['group']['items']): Did => ({
      ...newDid('d1', 'contact'),
      how: 'this',
      activity: 'appointmentMissed',
      group: given('g1', ...items),
    })
    const rule = (title: string, item: Did) =>
      switchOn(
        workspace,
        document({
          object: 'contact',
          when: [['activity', { kind: 'appointmentMissed', by: 'contact', about: '', late: false }]],
          onlyIf: all(item),
          then: [task(title)],
        }),
      )
    rule('Again', of(condition('appointmentMissed.missedBefore', 'moreThan', { value: 0 }, false, 'c1')))
    rule('Yesterday', of(condition('appointmentMissed.startMs', 'within', { span: 'yesterday' }, false, 'c1')))
    const first = book(workspace, clock.nowMs() - DAY_MS, ada)
    workspace.change(first, { status: 'missed' }, 'ines')
    expect(titles(workspace, ada)).toEqual(['Yesterday'])
    const second = book(workspace, clock.nowMs() - HOUR_MS, ada)
    workspace.change(second, { status: 'missed' }, 'ines')
    expect(titles(workspace, ada)).toEqual(['Again', 'Yesterday'])
  })

  it('has a path for each way that a call ended, and its words in texts', () => {
    const { workspace } = larkmoor()
    const ada = person(workspace, 'ada')
    switchOn(
      workspace,
      document({
        object: 'contact',
        when: [['activity', { kind: 'call', by: 'contact', about: '', late: false }]],
        then: [
          [
            'pathPerValue',
            { field: 't1.ended' },
            ['callBack', task('Try again')],
            ['interested', task('Send “{{t1.about}}”')],
            [null, task('Other')],
          ],
        ],
      }),
    )
    const called = (about: string, data: Values) =>
      tellActivities(workspace, [{ record: ada, kind: 'call', about, data, atMs: null, key: null }])
    called('brochure', { ended: 'interested' })
    called('', { ended: 'callBack' })
    called('', {})
    expect(titles(workspace, ada)).toEqual(['Other', 'Try again', 'Send “brochure”'])
  })

  it('has its fields also in a workspace that was set up before there were appointments', () => {
    const { workspace, clock } = larkmoor()
    for (const field of workspace.catalogue().fields('appointment')) {
      workspace.db.sqlite.prepare('DELETE FROM choices WHERE field_id = ?').run(field.id)
      workspace.store.catalogue.dropField(field.id)
    }
    workspace.catalogueChanged()
    expect(workspace.catalogue().fields('appointment')).toEqual([])
    addMissingFields(workspace)
    addMissingFields(workspace)
    expect(
      workspace
        .catalogue()
        .fields('appointment')
        .map(({ key }) => key),
    ).toContain('start')
    const { id } = book(workspace, clock.nowMs() + DAY_MS)
    expect(workspace.store.records.read({ object: 'appointment', id })?.values.status).toBe('booked')
  })

  it('does not go round when a rule books by what is booked', () => {
    const { workspace, clock } = larkmoor()
    const ada = person(workspace, 'ada')
    switchOn(
      workspace,
      document({
        object: 'contact',
        when: [['activity', { kind: 'appointment', by: 'contact', about: '', late: false }]],
        then: [task('Ring'), ['setField', { field: 'notes', source: { from: 'value', value: 'booked' } }]],
      }),
    )
    book(workspace, clock.nowMs() + DAY_MS, ada)
    expect(titles(workspace, ada)).toEqual(['Ring'])
  })
})
