import { copyFileSync, cpSync, mkdtempSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { document, enters, task } from '../../core/testing/rules'
import { larkmoor, MIGRATIONS, switchOn } from '../testing/workspace'
import { storageProblem } from '../utils/problem'
import { openDb } from './connect'

let folder = ''
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'sky-lever-faults-'))
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const rule = document({ when: [enters('hp-quoted')], then: [task('Ring', { again: true })] })

describe('when something breaks underneath', () => {
  it('a full disk: the change is refused whole, what was there stays, and it goes on once there is room', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, rule)
    const ref = workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized', owner: 'rosa' }, [], 'ines').ref
    const { sqlite } = workspace.db
    // SQLite answers a file that may not grow as it answers a disk that is full.
    sqlite.pragma(`max_page_count = ${sqlite.pragma('page_count', { simple: true }) as number}`)
    let changes = 0
    expect(() => {
      for (; changes < 5000; changes++)
        workspace.change(
          ref,
          { stage: changes % 2 ? 'hp-sized' : 'hp-quoted', notes: 'x'.repeat(2000) + changes },
          'rosa',
        )
    }).toThrow(/full/)
    expect(storageProblem(Object.assign(new Error(), { code: 'SQLITE_FULL' }))).toMatchObject({
      status: 507,
      title: 'Disk full',
    })
    expect(sqlite.inTransaction).toBe(false)
    sqlite.pragma('max_page_count = 1000000')
    expect(sqlite.pragma('integrity_check', { simple: true })).toBe('ok')
    workspace.drain()
    // Every change that is in the log, the one whose rules found no room included, has its task and its value.
    const { quoted } = sqlite
      .prepare(
        `SELECT count(*) AS quoted FROM events, json_each(events.changes) AS change WHERE json_extract(change.value, '$.new') = 'hp-quoted'`,
      )
      .get() as { quoted: number }
    expect((sqlite.prepare('SELECT count(*) AS n FROM tasks').get() as { n: number }).n).toBe(quoted)
    const last = workspace.store.events.ofRecord(ref, 1)[0]
    expect(workspace.store.records.read(ref)?.values.stage).toBe(
      last?.changes.find((change) => change.field === 'stage')?.new,
    )
    expect(workspace.change(ref, { units: 4 }, 'rosa').event).not.toBeNull()
  })

  it('a log that was cut off by a power cut: what it still holds whole is there, and nothing half', () => {
    const { workspace, dbFile, reopen } = larkmoor()
    switchOn(workspace, rule)
    const refs = Array.from(
      { length: 40 },
      (_, i) => workspace.create('deal', { name: `Deal ${i}`, stage: 'hp-sized', owner: 'rosa' }, [], 'ines').ref,
    )
    for (const ref of refs) workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
    // The files as a crash would leave them, the log torn in its last third.
    const torn = { main: readFileSync(dbFile), log: `${dbFile}-wal` }
    const log = join(folder, 'torn-wal')
    copyFileSync(torn.log, log)
    workspace.close()
    for (const end of ['', '-wal', '-shm']) rmSync(dbFile + end, { force: true })
    writeFileSync(dbFile, torn.main)
    copyFileSync(log, torn.log)
    truncateSync(torn.log, Math.floor(statSync(log).size * 0.7) + 123)

    const back = reopen()
    expect(back.db.sqlite.pragma('integrity_check', { simple: true })).toBe('ok')
    back.drain()
    const count = (sql: string) => (back.db.sqlite.prepare(sql).get() as { n: number }).n
    expect(count("SELECT count(*) AS n FROM events WHERE kind = 'created'")).toBe(back.store.records.count('deal'))
    expect(count('SELECT count(*) AS n FROM tasks')).toBe(
      [...back.store.records.scan('deal', ['stage'])].filter((deal) => deal.values.stage === 'hp-quoted').length,
    )
  })

  it('a migration that fails midway: the start is refused with its reason, and the database is as it was', () => {
    const { workspace, dbFile, reopen } = larkmoor()
    workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized' }, [], 'ines')
    workspace.close()
    const bad = join(folder, 'migrations')
    cpSync(MIGRATIONS, bad, { recursive: true })
    const journal = join(bad, 'meta', '_journal.json')
    const { entries, ...rest } = JSON.parse(readFileSync(journal, 'utf8')) as {
      entries: { idx: number; version: string; when: number; tag: string; breakpoints: boolean }[]
    }
    const last = entries.at(-1)!
    writeFileSync(
      journal,
      JSON.stringify({
        ...rest,
        entries: [...entries, { ...last, idx: last.idx + 1, when: last.when + 1, tag: '9999_bad' }],
      }),
    )
    writeFileSync(
      join(bad, '9999_bad.sql'),
      'CREATE TABLE half (id integer);\n--> statement-breakpoint\nALTER TABLE nowhere ADD COLUMN x text;\n',
    )
    expect(() => openDb(dbFile, bad)).toThrow(/nowhere/)
    const back = reopen()
    expect(back.store.records.count('deal')).toBe(1)
    expect(back.db.sqlite.prepare("SELECT count(*) AS n FROM sqlite_master WHERE name = 'half'").get()).toEqual({
      n: 0,
    })
  })

  it('a file that may not be written: the change is refused with its reason, readers go on, and it is made once it may', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, rule)
    const ref = workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized', owner: 'rosa' }, [], 'ines').ref
    // SQLite answers a connection that may only read as it answers a file that is read-only; a test run as root can
    // write any file.
    workspace.db.sqlite.pragma('query_only = ON')
    const thrown = (() => {
      try {
        workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
      } catch (error) {
        return error
      }
    })()
    expect(storageProblem(thrown)).toMatchObject({ status: 503, title: 'Database is read-only' })
    expect(workspace.db.sqlite.inTransaction).toBe(false)
    expect(workspace.store.records.read(ref)?.values.stage).toBe('hp-sized')
    workspace.db.sqlite.pragma('query_only = OFF')
    expect(workspace.change(ref, { stage: 'hp-quoted' }, 'rosa').reports).toMatchObject([{ state: 'done' }])
    expect(workspace.store.tasks.ofRecord(ref)).toHaveLength(1)
  })

  it('another program that holds the file: whoever waits in vain is told so', () => {
    const { workspace, dbFile } = larkmoor()
    const ref = workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized', owner: 'rosa' }, [], 'ines').ref
    const other = new Database(dbFile)
    workspace.db.sqlite.pragma('busy_timeout = 20')
    other.exec('BEGIN IMMEDIATE')
    let thrown: unknown = null
    try {
      workspace.change(ref, { units: 2 }, 'rosa')
    } catch (error) {
      thrown = error
    }
    expect(storageProblem(thrown)).toMatchObject({ status: 503, title: 'Database busy' })
    other.exec('ROLLBACK')
    other.close()
    expect(workspace.change(ref, { units: 2 }, 'rosa').event).not.toBeNull()
    expect(storageProblem(new Error('anything else'))).toBeNull()
  })

  it('a file that is no database is refused and left alone', () => {
    const file = join(folder, 'letter.db')
    const letter = 'Dear Rosa, this is no database.\n'.repeat(200)
    writeFileSync(file, letter)
    expect(() => openDb(file, MIGRATIONS)).toThrow(/not a database/)
    expect(readFileSync(file, 'utf8')).toBe(letter)
  })
})
