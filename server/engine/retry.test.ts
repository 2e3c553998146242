import { describe, expect, it } from 'vitest'
import { all, condition, document, enters, given, set, task } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { journalPage, runPage } from '../views/journal'
import { ruleLines } from '../views/rule-list'
import { retry } from './retry'
import type { Workspace } from './workspace'

const deal = (workspace: Workspace, values: object = {}) =>
  workspace.create('deal', { name: 'Room', stage: 'hp-sized', owner: 'rosa', ...values }, [], 'ines').ref
const titles = (workspace: Workspace) =>
  workspace.store.tasks
    .list({ people: null, before: null, limit: 50 })
    .map((one) => one.title)
    .sort()

/** A field that a rule names is taken away behind its back, so that the step that writes it fails. */
function without(workspace: Workspace, key: string, label: string): () => void {
  const field = workspace.catalogue().field('deal', key)!
  workspace.store.catalogue.updateField(field.id, { archived: true })
  workspace.tellCatalogue()
  return () => {
    workspace.store.catalogue.updateField(field.id, { archived: false, label })
    workspace.tellCatalogue()
  }
}

describe('trying a failed run again', () => {
  it('goes on from the step that failed and does nothing twice', () => {
    const { workspace } = larkmoor()
    switchOn(
      workspace,
      document(
        {
          when: [enters('hp-quoted')],
          then: [task('First', { again: true }), set('units', 3), task('Last', { again: true })],
        },
        'Three steps',
      ),
    )
    const ref = deal(workspace)
    const mend = without(workspace, 'units', 'Units')
    const [report] = workspace.change(ref, { stage: 'hp-quoted' }, 'rosa').reports
    expect(report?.state).toBe('failed')
    expect(ruleLines(workspace)[0]).toMatchObject({ runs: 1, failed: 1 })
    // Still broken: it fails again at the same step, and only there.
    expect(retry(workspace, report!.runId, 'ines')).toMatchObject({ state: 'failed', steps: [{ state: 'failed' }] })
    mend()
    expect(retry(workspace, report!.runId, 'ines')).toMatchObject({
      state: 'done',
      steps: [{ state: 'done', againBy: 'ines' }, { state: 'done' }],
    })
    const [line] = ruleLines(workspace)
    expect([line?.runs, line?.failed, line?.pulse.at(-1)]).toEqual([1, 0, 1])
    expect(titles(workspace)).toEqual(['First', 'Last'])
    expect(workspace.store.records.read(ref)?.values.units).toBe(3)
    expect(runPage(workspace, report!.runId)?.steps.map((step) => `${step.label} ${step.state}`)).toEqual([
      '1 done',
      '2 failed',
      '2 failed',
      '2 done',
      '3 done',
    ])
    expect(journalPage(workspace, { limit: 1 }).lines[0]?.outcome).not.toMatch(/failed/)
    expect(retry(workspace, report!.runId, 'ines')).toBeNull()
  })

  it('keeps to the path it was on, whatever the record holds by now', () => {
    const { workspace } = larkmoor()
    switchOn(
      workspace,
      document(
        {
          when: [enters('hp-quoted')],
          then: [
            [
              'choosePath',
              {},
              [
                given('c10', condition('amount', 'moreThan', { value: 100 }, false, 'c11')),
                task('Large', { again: true }),
                set('units', 3),
                task('After', { again: true }),
              ],
              [null, task('Small')],
            ],
          ],
        },
        'By size',
      ),
    )
    const ref = deal(workspace, { amount: 500 })
    const mend = without(workspace, 'units', 'Units')
    const [report] = workspace.change(ref, { stage: 'hp-quoted' }, 'rosa').reports
    mend()
    workspace.change(ref, { amount: 5 }, 'rosa')
    expect(retry(workspace, report!.runId, 'ines')?.state).toBe('done')
    expect(titles(workspace)).toEqual(['After', 'Large'])
  })

  it('goes on with the linked records that are left', () => {
    const { workspace } = larkmoor()
    switchOn(
      workspace,
      document(
        {
          object: 'company',
          when: [['fieldChanges', { field: 'name', how: 'anything', from: null, to: null }]],
          then: [['eachLinked', { to: 'deal' }, [given('c10'), task('Tell {{deal.name}}', { again: true })]]],
        },
        'Each',
      ),
    )
    const company = workspace.create('company', { name: 'Old' }, [], 'ines').ref
    for (const name of ['A', 'B', 'C'])
      workspace.create('deal', { name, stage: 'hp-sized', owner: 'rosa' }, [company], 'ines')
    workspace.db.sqlite.exec(
      "CREATE TRIGGER cursed BEFORE INSERT ON tasks WHEN new.title = 'Tell B' BEGIN SELECT RAISE(ABORT, 'cursed'); END",
    )
    const [report] = workspace.change(company, { name: 'New' }, 'ines').reports
    // What threw was rolled back as a whole, and conditions were never asked.
    expect([report?.state, titles(workspace)]).toEqual(['failed', []])
    workspace.db.sqlite.exec('DROP TRIGGER cursed')
    expect(retry(workspace, report!.runId, 'ines')?.state).toBe('done')
    expect(titles(workspace)).toEqual(['Tell A', 'Tell B', 'Tell C'])
  })

  it('asks the conditions of a run that threw before they could be asked', () => {
    const { workspace } = larkmoor()
    switchOn(
      workspace,
      document(
        {
          when: [enters('hp-quoted')],
          onlyIf: all(condition('amount', 'moreThan', { value: 100 })),
          then: [task('Ring')],
        },
        'Only large',
      ),
    )
    const ref = deal(workspace, { amount: 500 })
    workspace.db.sqlite.exec("CREATE TRIGGER cursed BEFORE INSERT ON tasks BEGIN SELECT RAISE(ABORT, 'cursed'); END")
    const [report] = workspace.change(ref, { stage: 'hp-quoted' }, 'rosa').reports
    workspace.db.sqlite.exec('DROP TRIGGER cursed')
    workspace.change(ref, { amount: 1 }, 'rosa')
    expect(retry(workspace, report!.runId, 'ines')).toMatchObject({ state: 'stopped', stop: { code: 'conditions' } })
    expect(titles(workspace)).toEqual([])
  })

  it('leaves alone what is not there or did not fail', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }))
    const [report] = workspace.change(deal(workspace), { stage: 'hp-quoted' }, 'rosa').reports
    expect([retry(workspace, report!.runId, 'ines'), retry(workspace, 999, 'ines')]).toEqual([null, null])
    expect(titles(workspace)).toEqual(['Ring'])
  })
})
