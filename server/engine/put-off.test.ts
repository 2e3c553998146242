import { describe, expect, it } from 'vitest'
import { guessMapping } from '../../core/formats/csv/guess'
import { readCsv } from '../../core/formats/csv/read'
import { all, document, task } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { makeDerived, workSomeDerived } from './derived'
import { control, value } from './derived.setting'
import { runImport } from './import'
import { catchUpAll, unnoticed } from './put-off'
import type { Workspace } from './workspace'

const ROWS = 40
const CONTENT = [
  'Name,Stage,Amount,Owner,Company',
  ...Array.from({ length: ROWS }, (_, i) => `Deal ${i},Sized,${100 + i},rosa,Firm`),
].join('\n')
const TOTAL = Array.from({ length: ROWS }, (_, i) => 100 + i).reduce((sum, one) => sum + one)

function rolled() {
  const { workspace, reopen } = larkmoor()
  const add = (label: string, type: 'number' | 'currency', made: object) =>
    makeDerived(workspace, { object: 'company', label, description: '', type, made } as never, 'ines')
  const over = { by: 'rollUp', over: 'deal', order: null, down: false, where: all() }
  add('Deals', 'number', { ...over, what: 'count', field: null })
  add('Total', 'currency', { ...over, what: 'sum', field: 'amount' })
  add('Twice', 'number', { by: 'formula', text: 'deals * 2' })
  while (workSomeDerived(workspace, () => false));
  return { workspace, reopen }
}
const bring = async (workspace: Workspace, over: Partial<typeof control> = {}): Promise<void> => {
  const mapping = guessMapping(readCsv(CONTENT), workspace.catalogue())
  const given = { fileName: 'x.csv', content: CONTENT, mapping, personId: 'ines' }
  const id = workspace.store.imports.create(given, workspace.clock.nowMs())
  await runImport(workspace, id, true, { ...control, awaited: () => true, ...over })
}
const firm = (workspace: Workspace) => [...workspace.store.records.scan('company', ['name'])][0]!
const changesOf = (workspace: Workspace, key: string): number => {
  const field = workspace.catalogue().field('company', key)
  return workspace.store.events.past(firm(workspace), field?.id ?? 0, Number.MAX_SAFE_INTEGER, 1000).length
}

describe('roll-ups while a file is written', () => {
  it('are worked out a few times, not once a row, and hold what a whole count comes to', async () => {
    const { workspace } = rolled()
    expect([...unnoticed(workspace)].map(({ field }) => field.key).sort()).toEqual(['deals', 'total'])
    await bring(workspace)
    for (const [key, holds] of [
      ['deals', ROWS],
      ['total', TOTAL],
      ['twice', ROWS * 2],
    ] as const)
      expect(value(workspace, firm(workspace), key), key).toBe(holds)
    expect(changesOf(workspace, 'deals')).toBeLessThan(5)
    expect(workspace.store.derive.putOffFor(1)).toEqual([])
  })

  it('follow each row where a rule goes by them, or by what hangs on them', async () => {
    const { workspace } = rolled()
    const ruleId = switchOn(
      workspace,
      document(
        {
          object: 'company',
          when: [['fieldChanges', { field: 'twice', how: 'past', from: null, to: 20 }]],
          then: [task('Twenty')],
        },
        'Past twenty',
      ),
    )
    expect([...unnoticed(workspace)].map(({ field }) => field.key)).toEqual(['total'])
    await bring(workspace)
    expect(workspace.store.runs.lastAt(ruleId, firm(workspace), Number.MAX_SAFE_INTEGER)).not.toBeNull()
    expect(changesOf(workspace, 'deals')).toBeGreaterThanOrEqual(ROWS)
    expect(value(workspace, firm(workspace), 'total')).toBe(TOTAL)
  })

  it('are made up for after a stop, whoever opens the file next', async () => {
    const { workspace, reopen } = rolled()
    let commits = 0
    const pause = () => (++commits === 12 ? Promise.reject(new Error('killed')) : Promise.resolve())
    await expect(bring(workspace, { pause })).rejects.toThrow('killed')
    expect(value(workspace, firm(workspace), 'deals')).toBeNull()
    workspace.close()
    const second = reopen()
    await catchUpAll(second, control)
    expect(value(second, firm(second), 'deals')).toBe(12)
    expect(value(second, firm(second), 'twice')).toBe(24)
  })

  it('a change by hand is followed at once', async () => {
    const { workspace } = rolled()
    await bring(workspace)
    workspace.create('deal', { name: 'One more', stage: 'hp-sized', amount: 7 }, [firm(workspace)], 'ines')
    expect(value(workspace, firm(workspace), 'total')).toBe(TOTAL + 7)
  })
})
