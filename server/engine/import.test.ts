import { describe, expect, it } from 'vitest'
import { guessMapping } from '../../core/formats/csv/guess'
import { readCsv } from '../../core/formats/csv/read'
import { document, enters, task } from '../../core/testing/rules'
import { larkmoor, NOW_MS, switchOn } from '../testing/workspace'
import { continueImport, previewImport, runImport, type ImportControl } from './import'
import type { Workspace } from './workspace'

function upload(workspace: Workspace, content: string): number {
  return workspace.store.imports.create(
    { fileName: 'x.csv', content, mapping: guessMapping(readCsv(content), workspace.catalogue()), personId: 'ines' },
    workspace.clock.nowMs(),
  )
}

const lines = (count: number) =>
  Array.from({ length: count }, (_, i) => `Deal ${i},Quoted,${i},rosa,Firm ${i % 7},Person ${i % 11},R${i}`)
const head = 'Name,Stage,Amount,Owner,Company,Contact,Reference'
const counts = (workspace: Workspace, id: number) => workspace.store.imports.get(id)?.counts

/** One row a commit; `between` is called after each, with how many there were. */
function control(between: (commits: number) => void): ImportControl {
  let commits = 0
  return { awaited: () => true, nowMs: () => 0, pause: () => Promise.resolve(between(++commits)) }
}

describe('an import', () => {
  it('does what its preview said, makes each company and contact once, and lets rules run', async () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }))
    const id = upload(workspace, [head, ...lines(120), 'Broken,Nowhere,1,,,,'].join('\n'))
    const row = workspace.store.imports.get(id)!
    const { counts: planned } = previewImport(workspace, row)
    expect(planned).toMatchObject({ new: 120, changed: 0, refused: 1, companies: 7 })
    await runImport(workspace, id, true)
    expect(workspace.store.records.count('deal')).toBe(120)
    expect(workspace.store.records.count('company')).toBe(7)
    expect(workspace.store.records.count('contact')).toBe(planned.contacts)
    expect(workspace.store.tasks.openFor('rosa', '9999-12-31')).toHaveLength(120)
    expect(workspace.store.imports.get(id)).toMatchObject({ state: 'done', refused: [{ row: 122 }] })
    expect(counts(workspace, id)).toEqual(planned)
  })

  it('that was cut short before anything was planned does all of it when it goes on', async () => {
    const { workspace } = larkmoor()
    const id = upload(workspace, [head, ...lines(12)].join('\n'))
    workspace.store.imports.begin(id, false)
    expect(workspace.store.imports.running()).toEqual([id])
    await continueImport(workspace, id)
    expect(workspace.store.records.count('deal')).toBe(12)
    expect(workspace.store.imports.get(id)).toMatchObject({ state: 'done', rulesOn: false, counts: { new: 12 } })
  })

  it('changes nothing the second time', async () => {
    const { workspace } = larkmoor()
    const content = [head, ...lines(20)].join('\n')
    await runImport(workspace, upload(workspace, content), true)
    const before = workspace.store.events.position('engine')
    const again = upload(workspace, content)
    await runImport(workspace, again, true)
    expect(counts(workspace, again)).toEqual({ new: 0, changed: 0, same: 20, refused: 0, companies: 0, contacts: 0 })
    expect(workspace.store.events.position('engine')).toBe(before)
  })

  it('with rules off, no rule looks at what it wrote, then or later', async () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }))
    await runImport(workspace, upload(workspace, [head, ...lines(3)].join('\n')), false)
    workspace.drain()
    expect(workspace.store.tasks.openFor('rosa', '9999-12-31')).toEqual([])
  })

  it('goes on after a stop where it was, and makes nothing twice', async () => {
    const { workspace, reopen } = larkmoor()
    const id = upload(workspace, [head, ...lines(170)].join('\n'))
    await expect(
      runImport(
        workspace,
        id,
        true,
        control((commits) => {
          if (commits === 100) throw new Error('killed')
        }),
      ),
    ).rejects.toThrow('killed')
    workspace.close()
    const second = reopen()
    expect(second.store.imports.get(id)).toMatchObject({ state: 'running', position: 101 })
    expect(second.store.imports.running()).toEqual([id])
    second.drain()
    await continueImport(second, id)
    expect(second.store.records.count('deal')).toBe(170)
    expect(second.store.records.count('company')).toBe(7)
    expect(second.store.imports.get(id)).toMatchObject({ state: 'done', counts: { new: 170 } })
    await continueImport(second, id)
    expect(second.store.records.count('deal')).toBe(170)
  })

  it('a row that does not fit any more when its turn comes is reported and loses no other', async () => {
    const { workspace } = larkmoor()
    const id = upload(
      workspace,
      [head, ...lines(60).map((line, i) => (i === 55 ? line.replace('rosa', 'brisa') : line))].join('\n'),
    )
    await runImport(
      workspace,
      id,
      true,
      control((commits) => {
        if (commits !== 50) return
        // Between two commits of the import somebody is taken out of the workspace.
        workspace.db.sqlite.exec("DELETE FROM people WHERE id = 'brisa'")
        workspace.tellCatalogue()
      }),
    )
    expect(workspace.store.records.count('deal')).toBe(59)
    expect(counts(workspace, id)).toMatchObject({ new: 59, refused: 1 })
    expect(workspace.store.imports.get(id)?.refused).toEqual([
      { row: 57, problems: [{ heading: 'owner', text: 'No person named “brisa”.' }] },
    ])
  })

  it('stops where it is told to and goes on from there, with everything once', async () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ when: [['created', {}]], then: [task('Say hello')] }))
    const id = upload(workspace, [head, ...lines(90)].join('\n'))
    await runImport(
      workspace,
      id,
      true,
      control((commits) => {
        if (commits === 30) workspace.store.imports.setState(id, 'stopped')
      }),
    )
    expect(workspace.store.imports.get(id)).toMatchObject({ state: 'stopped', position: 31, endedAt: null })
    expect(workspace.store.records.count('deal')).toBe(30)
    await continueImport(workspace, id)
    expect(workspace.store.records.count('deal')).toBe(30)
    workspace.store.imports.setState(id, 'running')
    await continueImport(workspace, id)
    expect(workspace.store.imports.get(id)?.state).toBe('done')
    expect(workspace.store.records.count('deal')).toBe(90)
    const { n } = workspace.db.sqlite.prepare('SELECT count(*) AS n FROM tasks').get() as { n: number }
    expect(n).toBe(90)
  })

  it('lets others in after every row while they wait, and what they change stands', async () => {
    const { workspace } = larkmoor()
    const other = workspace.create('deal', { name: 'Mine', stage: 'hp-sized', owner: 'rosa' }, [], 'ines').ref
    const id = upload(workspace, [head, ...lines(20)].join('\n'))
    const seen: number[] = []
    await runImport(
      workspace,
      id,
      true,
      control((commits) => {
        workspace.change(other, { units: commits }, 'rosa')
        seen.push(workspace.store.records.count('deal'))
      }),
    )
    expect(seen).toEqual(Array.from({ length: 20 }, (_, i) => i + 2))
    expect(workspace.store.records.read(other)?.values.units).toBe(20)
  })

  it('says how far it has come', async () => {
    const { workspace } = larkmoor()
    const heard: unknown[] = []
    workspace.live.listen(({ message }) => {
      if (message.about === 'imports') heard.push(message.progress ?? 'read again')
    })
    await runImport(
      workspace,
      upload(workspace, [head, ...lines(3)].join('\n')),
      true,
      control(() => undefined),
    )
    // Its counts are there to be read before the first row is written.
    expect(heard).toMatchObject([
      'read again',
      { row: 2, total: 4 },
      { row: 3, total: 4 },
      { row: 4, total: 4, leftSeconds: 0 },
      'read again',
    ])
  })

  it('runs by the rules as they are at that moment, even when another thread changed them', async () => {
    const { workspace, reopen } = larkmoor()
    const rule = switchOn(workspace, document({ when: [['created', {}]], then: [task('Say hello')] }))
    const id = upload(workspace, [head, ...lines(10)].join('\n'))
    const other = reopen()
    await runImport(
      workspace,
      id,
      true,
      control((commits) => {
        if (commits !== 4) return
        other.store.rules.setState(rule, 'off', 'ines', NOW_MS)
        other.rulesChanged()
      }),
    )
    const { n } = workspace.db.sqlite.prepare('SELECT count(*) AS n FROM tasks').get() as { n: number }
    expect(n).toBe(4)
  })
})
