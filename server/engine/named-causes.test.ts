import { describe, expect, it } from 'vitest'
import { all, condition, daysBefore, document, enters, task } from '../../core/testing/rules'
import { instantOf } from '../../core/time/dates'
import { refusal } from '../testing/refusal'
import { larkmoor, switchOn } from '../testing/workspace'
import { recordPage } from '../views/record'
import { fieldPast } from '../views/why'
import { guessMapping } from '../../core/formats/csv/guess'
import { readCsv } from '../../core/formats/csv/read'
import { actingKey, byKey } from './acting'
import { makeBulk } from './bulk-edit'
import { planClock, workClock } from './clockwork'
import { changeField } from './fields'
import { runImport } from './import'
import { addJob, workJob } from './rule-jobs'
import { makeSegment } from './segments'
import { backfillOrder } from './standing'

const control = { awaited: () => false, nowMs: () => 0, pause: () => Promise.resolve() }

describe('what caused something', () => {
  it('names the API key, for changes and links, and for nothing that another request does meanwhile', async () => {
    const { workspace } = larkmoor()
    const { ref } = workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa' }, [], 'ines')
    const firm = workspace.create('company', { name: 'Ribeira' }, [], 'ines').ref
    let begun: () => void = () => undefined
    const other = new Promise<void>((resolve) => (begun = resolve))
    const slow = byKey('Warehouse', async () => {
      await other
      workspace.change(ref, { amount: 5 }, 'ines')
      workspace.link(ref, firm, '', false, 'ines')
    })
    workspace.change(ref, { units: 3 }, 'ines')
    begun()
    await slow
    const doer = (key: string) => fieldPast(workspace, ref, key)?.changes[0]?.doer.name
    expect(doer('amount')).toBe('Ines Calloway, API key “Warehouse”')
    expect(doer('units')).toBe('Ines Calloway')
    const lines = recordPage(workspace, ref)?.timeline ?? []
    expect(lines.flatMap((line) => (line.what === 'link' ? [line.doer.name] : []))).toEqual([
      'Ines Calloway, API key “Warehouse”',
    ])
  })

  it('names it for what goes on in the background too: imports, bulk edits and runs for many records', async () => {
    const { workspace } = larkmoor()
    const rule = document({ when: [enters('hp-visit')], then: [task('Ring', { again: true })] }, 'Visit')
    const id = switchOn(workspace, rule)
    const content = 'Name,Stage,Owner\nImported,Site visit,rosa'
    const mapping = guessMapping(readCsv(content), workspace.catalogue())
    const file = workspace.store.imports.create(
      { fileName: 'x.csv', content, mapping, personId: 'ines' },
      workspace.clock.nowMs(),
    )
    workspace.store.imports.setKey(file, byKey('Warehouse', actingKey))
    await runImport(workspace, file, false)
    const [deal] = [...workspace.store.records.scan('deal', ['name'])]
    const doer = (key: string) => fieldPast(workspace, deal!, key)?.changes[0]?.doer.name
    expect(doer('name')).toBe('import by Ines Calloway, API key “Warehouse”')
    const edit = { object: 'deal', filter: all(), words: '', field: 'units', value: 4, scope: null } as const
    makeBulk(workspace, { edit, personId: 'ines', key: 'Warehouse' })
    expect(doer('units')).toBe('Ines Calloway, API key “Warehouse”')
    const order = backfillOrder(workspace, rule, { passedDays: 30, again: true })!
    await workJob(
      workspace,
      byKey('Warehouse', () => addJob(workspace, id, order, 'ines')),
      control,
    )
    const run = workspace.store.runs.list({ ruleId: id, limit: 1 })[0]
    expect(workspace.store.events.get(run?.eventSeq ?? 0)?.cause).toMatchObject({ by: 'person', key: 'Warehouse' })
  })

  it('is a moment that came right after the rule was switched on', async () => {
    const { workspace, clock } = larkmoor()
    const at = instantOf('2026-11-25', 8, 30, 'Europe/Lisbon')
    workspace.create('deal', { name: 'Room', stage: 'hp-visit', owner: 'rosa', closeDate: '2026-11-28' }, [], 'ines')
    clock.set(at - 400)
    switchOn(
      workspace,
      document(
        {
          when: [daysBefore(3)],
          then: [task('Near')],
        },
        'Near',
      ),
    )
    // The background plans it a moment later, when its time has just come.
    clock.set(at + 100)
    planClock(workspace)
    await workClock(workspace, control)
    expect(workspace.store.runs.list({ limit: 5 }).map((run) => run.state)).toEqual(['done'])
    // What came before it was switched on stays away.
    clock.set(at + 3000)
    planClock(workspace)
    await workClock(workspace, control)
    expect(workspace.store.runs.list({ limit: 5 })).toHaveLength(1)
  })

  it('of a refusal is the segment and the rule', () => {
    const { workspace } = larkmoor()
    const filter = all(condition('amount', 'moreThan', { value: 100 }))
    const segment = makeSegment(
      workspace,
      { object: 'deal', name: 'Large', filter, columns: [], sort: 'name', down: false },
      'ines',
    )
    switchOn(workspace, document({ when: [['segmentEntered', { segment }]], then: [task('Large')] }, 'Greets'))
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Other')] }, 'Other'))
    const amount = workspace.catalogue().field('deal', 'amount')
    if (!amount) throw new Error('there is an amount')
    // What the segment is worked out from is found before the segment itself.
    expect(
      refusal(() => changeField(workspace, { ...amount, keptBy: null, made: null }, { archived: true })),
    ).toContain('used by segment “Large”, which triggers rule “Greets”')
  })
})
