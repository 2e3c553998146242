import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { openDb, type Db } from './connect'

const MIGRATIONS = 'server/db/migrations'
let folder = ''
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'sky-lever-migrations-'))
})
afterEach(() => rmSync(folder, { recursive: true, force: true }))

interface Journal {
  readonly entries: readonly { readonly tag: string }[]
}

/** A database as it was made by the version before the migration of this name, filled by `fill`, and opened now. */
function fromBefore(tag: string, fill: (db: Db) => void): Db {
  const older = join(folder, 'migrations')
  cpSync(MIGRATIONS, older, { recursive: true })
  const journal = JSON.parse(readFileSync(join(older, 'meta/_journal.json'), 'utf8')) as Journal
  const at = journal.entries.findIndex((one) => one.tag === tag)
  expect(at, tag).toBeGreaterThan(0)
  writeFileSync(
    join(older, 'meta/_journal.json'),
    JSON.stringify({ ...journal, entries: journal.entries.slice(0, at) }),
  )
  const file = join(folder, 'older.db')
  const before = openDb(file, older)
  // Rows stand alone here: what they point at is none of this test's business.
  before.sqlite.pragma('foreign_keys = OFF')
  fill(before)
  before.close()
  return openDb(file, MIGRATIONS)
}

describe('a database of the version before', () => {
  it('keeps its activities, and what they were the cause of, under the names of now', () => {
    const event = (cause: object) =>
      `INSERT INTO events (at_ms, kind, object, record_id, changes, cause, chain_id, depth, rules_off)
       VALUES (1, 'changed', 'deal', 1, '[]', '${JSON.stringify(cause)}', 'c', 0, 0)`
    const causes = [
      { by: 'happening', happeningId: 7 },
      { by: 'kept', of: ['deal', 1] },
      { by: 'kept', of: null },
      { by: 'person', personId: 'happening' },
    ]
    const db = fromBefore('0055_plain_names', ({ sqlite }) => {
      for (const cause of causes) sqlite.exec(event(cause))
      sqlite.exec(`
        INSERT INTO happenings (told_at, at_ms, object, record_id, kind, about, key, data)
        VALUES (4, 5, 'contact', 3, 'visit', 'Prices', 'k1', '{"page":"/prices"}');
        INSERT INTO unknown_happenings (told_at, at_ms, visitor, kind, about, key, data)
        VALUES (6, 6, 'v1', 'visit', 'Home', 'k2', '{}');
        INSERT INTO rule_jobs (rule_id, work, state, position, done, total, "left", person_id, created_at)
        VALUES (1, '{"what":"through","object":"deal","filter":null}', 'running', 0, 0, 4, '[]', 'ines', 3),
          (1, '{"what":"held"}', 'done', 0, 0, 4, '[]', 'ines', 3);
        INSERT INTO task_acts (task_id, at_ms, person_id, act, detail)
        VALUES (1, 7, 'brisa', 'putBack', ''), (1, 8, 'brisa', 'pulled', '');
      `)
    })
    const all = (sql: string): readonly unknown[] => db.sqlite.prepare(sql).pluck().all()
    expect(all('SELECT cause FROM events ORDER BY seq').map((one) => JSON.parse(String(one)) as unknown)).toEqual([
      { by: 'activity', activityId: 7 },
      { by: 'derived', of: ['deal', 1] },
      { by: 'derived', of: null },
      { by: 'person', personId: 'happening' },
    ])
    expect(all('SELECT about FROM activities')).toEqual(['Prices'])
    expect(all('SELECT about FROM unknown_activities')).toEqual(['Home'])
    expect(all('SELECT act FROM task_acts ORDER BY at_ms')).toEqual(['returned', 'pulled'])
    expect(all(`SELECT work ->> '$.what' FROM rule_jobs ORDER BY id`)).toEqual(['backfill', 'held'])
    expect(() => db.sqlite.exec('UPDATE events SET depth = 1')).toThrow(/only ever added/)
    // Told again under the same key, it is still known.
    expect(() =>
      db.sqlite.exec(
        `INSERT INTO activities (told_at, at_ms, object, record_id, kind, about, key, data)
         VALUES (9, 9, 'contact', 3, 'visit', '', 'k1', '{}')`,
      ),
    ).toThrow(/UNIQUE/)
    db.close()
  })

  it('has nothing left that goes by an older name', () => {
    const db = fromBefore('0055_plain_names', () => undefined)
    const made = db.sqlite.prepare('SELECT sql FROM sqlite_master WHERE sql IS NOT NULL').pluck().all()
    expect(made.filter((sql) => /happening/i.test(String(sql)))).toEqual([])
    db.close()
  })
})
