import { copyFileSync, existsSync, rmSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { document, enters, task } from '../../core/testing/rules'
import { larkmoor, NOW_MS, switchOn } from '../testing/workspace'
import { listBackups, makeBackup } from './backup'

describe('a backup', () => {
  it('made while people work is whole, and put back it is the workspace of that moment', async () => {
    const { workspace, dbFile, reopen } = larkmoor()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [task('Ring')] }))
    const refs = Array.from(
      { length: 30 },
      (_, i) => workspace.create('deal', { name: `Deal ${i}`, stage: 'hp-sized', owner: 'rosa' }, [], 'ines').ref,
    )
    const making = makeBackup(dbFile, NOW_MS)
    for (const ref of refs) workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    const { file, bytes } = await making
    expect(bytes).toBeGreaterThan(10_000)
    expect(file).toMatch(/backups\/test-2026-11-24T091200Z\.db$/)
    expect(listBackups(dbFile).map((one) => one.file)).toEqual([file])
    expect(existsSync(`${file}.part`)).toBe(false)

    workspace.close()
    for (const end of ['', '-wal', '-shm']) rmSync(dbFile + end, { force: true })
    copyFileSync(file, dbFile)
    const back = reopen()
    back.drain()
    expect(back.store.records.count('deal')).toBe(30)
    // Every deal that the copy has in Quoted has its task, and no other.
    const { n } = back.db.sqlite.prepare('SELECT count(*) AS n FROM tasks').get() as { n: number }
    const quoted = [...back.store.records.scan('deal', ['stage'])].filter(
      (record) => record.values.stage === 'hp-quoted',
    )
    expect(n).toBe(quoted.length)
    expect(back.db.sqlite.pragma('integrity_check', { simple: true })).toBe('ok')
  })

  it('of a file that is not there is refused by name', async () => {
    await expect(makeBackup('/nowhere/at-all.db', NOW_MS)).rejects.toThrow('there is no database at /nowhere/at-all.db')
    expect(listBackups('/nowhere/at-all.db')).toEqual([])
  })
})
