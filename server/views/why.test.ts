import { describe, expect, it } from 'vitest'
import { all, condition, daysBefore, document, enters, set } from '../../core/testing/rules'
import type { RuleDocument } from '../../core/rules/document'
import type { RecordRef } from '../../core/records/kinds'
import type { Value } from '../../core/language/value'
import { larkmoor, switchOn } from '../testing/workspace'
import type { Workspace } from '../engine/workspace'
import { fieldPast, rulesFor, seeRecord, whyFor, type Why } from './why'

const rule: RuleDocument = document(
  {
    when: [enters('hp-quoted')],
    onlyIf: all(condition('amount', 'moreThan', { value: 15_000 })),
    then: [set('units', 2)],
  },
  'Large quote',
)
const deal = (workspace: Workspace, values: Readonly<Record<string, Value>>): RecordRef =>
  workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized', ...values }, [], 'ines').ref
const ask = (workspace: Workspace, id: number, ref: RecordRef): Why =>
  whyFor(workspace, workspace.store.rules.get(id)!, ref)!

describe('why a rule ran, or did not', () => {
  it('it ran: when, why and what it did', () => {
    const { workspace } = larkmoor()
    const id = switchOn(workspace, rule)
    const ref = deal(workspace, { amount: 20_000 })
    workspace.change(ref, { stage: 'hp-quoted' }, 'ines')
    const why = ask(workspace, id, ref)
    expect(why).toMatchObject({
      ran: true,
      holds: true,
      answer: 'Ran on 24 Nov 2026, 9:12. Why: the deal moved from Sized to Quoted. Result: units: empty → 2.',
    })
    expect(why.runs).toHaveLength(1)
    expect(rulesFor(workspace, ref)[0]).toMatchObject({ ruleId: id, name: 'Large quote', last: { state: 'done' } })
  })

  it('a date has not come: when it does, or why it never will', () => {
    const { workspace } = larkmoor()
    const id = switchOn(
      workspace,
      document(
        {
          when: [daysBefore(3)],
          then: [set('units', 2)],
        },
        'Near',
      ),
    )
    const answers = ['2026-12-10', '2026-11-25', null].map(
      (closeDate) => ask(workspace, id, deal(workspace, { closeDate })).answer,
    )
    expect(answers.map((answer) => answer.split('. ').at(-1))).toEqual([
      'It will run on 7 Dec 2026, 8:30.',
      'The time was already past when the date was set or the rule was switched on (expected close: 25 Nov 2026).',
      'Expected close is empty.',
    ])
  })

  it('a condition failed: which, with the value of that moment and not of now', () => {
    const { workspace } = larkmoor()
    const id = switchOn(workspace, rule)
    const ref = deal(workspace, { amount: 12_000 })
    workspace.change(ref, { stage: 'hp-quoted' }, 'ines')
    workspace.change(ref, { amount: 99_000 }, 'ines')
    expect(ask(workspace, id, ref)).toMatchObject({
      ran: false,
      answer:
        'Triggered on 24 Nov 2026, 9:12 (the deal moved from Sized to Quoted), then stopped: its amount is more than €15,000 was not true: €12,000.',
      seen: [{ value: '€12,000', holds: false }],
    })
  })

  it('nothing has started it; it is a draft; it is about something else', () => {
    const { workspace } = larkmoor()
    const id = switchOn(workspace, rule)
    const ref = deal(workspace, { amount: 20_000 })
    expect(ask(workspace, id, ref)).toMatchObject({
      ran: false,
      seenAt: null,
      holds: true,
      answer: 'Its trigger has not happened: a deal enters Quoted (Hire & purchase).',
    })
    const draft = workspace.store.rules.create(rule, 'ines', 1)
    expect(ask(workspace, draft, ref).answer).toBe('This rule has never been switched on.')
    const { ref: company } = workspace.create('company', { name: 'Lund' }, [], 'ines')
    expect(ask(workspace, id, company).answer).toBe('This rule is for deals.')
    expect(rulesFor(workspace, company)).toEqual([])
  })

  it('what starts it came before the rule was there, with what the record held then', () => {
    const { workspace, clock } = larkmoor()
    const ref = deal(workspace, { amount: 12_000 })
    workspace.change(ref, { stage: 'hp-quoted' }, 'ines')
    workspace.change(ref, { amount: 50_000 }, 'ines')
    clock.set(clock.nowMs() + 60_000)
    const id = switchOn(workspace, rule)
    const why = ask(workspace, id, ref)
    expect(why.answer).toBe(
      'The trigger happened on 24 Nov 2026, 9:12 (the deal moved from Sized to Quoted), before version 1 was published.',
    )
    expect([why.seen[0]?.value, why.holds, why.seenAt]).toEqual(['€12,000', false, clock.nowMs() - 60_000])
  })

  it('the rule was off, or the change was one that rules were not to look at', () => {
    const { workspace } = larkmoor()
    const id = switchOn(workspace, rule)
    workspace.store.rules.setState(id, 'off', 'ines', 1)
    workspace.rulesChanged()
    const ref = deal(workspace, { amount: 20_000 })
    workspace.change(ref, { stage: 'hp-quoted' }, 'ines')
    expect(ask(workspace, id, ref).answer).toContain(
      'The trigger happened on 24 Nov 2026, 9:12 (the deal moved from Sized to Quoted), but the rule is off.',
    )
    const quiet = workspace.createBy('deal', { name: 'Quiet', stage: 'hp-sized' }, [], {
      by: 'person',
      personId: 'ines',
    })
    workspace.world.write(
      quiet,
      { stage: 'hp-quoted' },
      { by: 'import', importId: 1, personId: 'ines' },
      { chainId: 'x', depth: 0 },
      true,
    )
    expect(ask(workspace, id, quiet).answer).toContain(
      'The trigger happened on 24 Nov 2026, 9:12 (the deal moved from Sized to Quoted), in a change made with rules off.',
    )
  })
})

describe('one record under a rule that is being written', () => {
  it('shows every condition with the value seen, linked records counted', () => {
    const { workspace } = larkmoor()
    const { ref: company } = workspace.create('company', { name: 'Lund', sector: 'bakery' }, [], 'ines')
    workspace.create('deal', { name: 'One', stage: 'hp-sized' }, [company], 'ines')
    workspace.create('deal', { name: 'Two', stage: 'hp-lost' }, [company], 'ines')
    const draft = document({
      object: 'company',
      when: [['created', {}]],
      onlyIf: all(condition('sector', 'is', { value: 'bakery' }), {
        kind: 'linked',
        id: 'l1',
        object: 'deal',
        how: 'none',
        count: 1,
        group: { ...all(condition('stage', 'standing', { outcome: 'open' })), id: 'g1' },
      }),
      then: [],
    })
    expect(seeRecord(workspace, draft, company.id)).toMatchObject({
      name: 'Lund',
      holds: false,
      seen: [
        { holds: true, value: 'Bakery' },
        { holds: false, value: '1 of 2 deals matches', linked: true },
      ],
    })
    expect(seeRecord(workspace, draft, 99)).toBeNull()
  })
})

describe('who set a field', () => {
  it('tells every value with its person or rule, newest first, also of a field that was put away', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, rule)
    const ref = deal(workspace, { amount: 20_000, units: 1 })
    workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    workspace.change(ref, { units: 7 }, 'jude')
    expect(
      fieldPast(workspace, ref, 'units')?.changes.map((change) => [
        change.doer.name,
        change.old,
        change.new,
        change.created,
      ]),
    ).toEqual([
      ['Jude Okell', '2', '7', false],
      ['Large quote', '1', '2', false],
      ['Ines Calloway', 'empty', '1', true],
    ])
    expect(fieldPast(workspace, ref, 'margin')).toEqual({ label: 'Margin', note: null, changes: [] })
    expect(fieldPast(workspace, ref, 'gone')).toBeNull()
  })
})
