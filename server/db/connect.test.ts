import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { MIGRATIONS } from '../testing/workspace'
import { openDb, type Db, type Turns } from './connect'
import { prepareInsert } from './prepared'
import { revisions } from './schema/catalogue'
import { events } from './schema/records'
import { outbox } from './schema/runs'
import { imports } from './schema/imports'

let folder = ''
let db: Db
let waiting = 0
const turns: Turns = {
  before: () => {
    waiting++
  },
  after: () => {
    waiting--
  },
}
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'sky-lever-db-'))
  db = openDb(join(folder, 'x.db'), MIGRATIONS, turns)
})
afterEach(() => {
  db.close()
  rmSync(folder, { recursive: true, force: true })
})
const bump = () =>
  db.sqlite.prepare("INSERT INTO revisions VALUES ('rules', 1) ON CONFLICT (what) DO UPDATE SET n = n + 1").run()
const count = (): number =>
  (db.sqlite.prepare('SELECT coalesce(sum(n), 0) AS n FROM revisions').get() as { n: number }).n

describe('a connection', () => {
  it('holds to what the house asks of SQLite', () => {
    expect(
      ['journal_mode', 'synchronous', 'foreign_keys', 'busy_timeout'].map((name) =>
        db.sqlite.pragma(name, { simple: true }),
      ),
    ).toEqual(['wal', 2, 1, 5000])
    expect(() =>
      db.sqlite
        .prepare(
          "INSERT INTO stages (id, pipeline_id, name, position, outcome) VALUES ('a', 'nowhere', 'A', 0, 'open')",
        )
        .run(),
    ).toThrow(/FOREIGN KEY/)
  })

  it('is brought to the newest migration once, and again without harm', () => {
    const before = db.sqlite.prepare('SELECT count(*) AS n FROM __drizzle_migrations').get()
    const again = openDb(join(folder, 'x.db'), MIGRATIONS)
    expect(again.sqlite.prepare('SELECT count(*) AS n FROM __drizzle_migrations').get()).toEqual(before)
    again.close()
  })

  it('keeps all of a transaction or nothing', () => {
    expect(() =>
      db.atomically(() => {
        bump()
        throw new Error('in the middle')
      }),
    ).toThrow('in the middle')
    expect(count()).toBe(0)
    expect(
      db.atomically(() => {
        bump()
        return 'kept'
      }),
    ).toBe('kept')
    expect(count()).toBe(1)
    expect([db.sqlite.inTransaction, waiting]).toEqual([false, 0])
  })

  it('does afterwards what others shall find written, and never what is dropped', () => {
    const seen: string[] = []
    const other = openDb(join(folder, 'x.db'), MIGRATIONS)
    const found = (name: string) => () => {
      seen.push(
        `${name} ${(other.sqlite.prepare('SELECT coalesce(sum(n), 0) AS n FROM revisions').get() as { n: number }).n}`,
      )
    }
    db.afterwards(found('outside'))
    db.atomically(() => {
      bump()
      db.afterwards(found('after'))
      db.atomically(() => db.afterwards(found('part')))
      db.together(bump)
      expect(seen).toEqual(['outside 0'])
    })
    expect(seen).toEqual(['outside 0', 'after 2', 'part 2'])
    expect(() =>
      db.atomically(() => {
        db.afterwards(found('dropped'))
        throw new Error('dropped')
      }),
    ).toThrow('dropped')
    db.atomically(bump)
    expect(seen).toHaveLength(3)
    other.close()
  })

  it('lets a part of a transaction fail by itself', () => {
    db.atomically(() => {
      bump()
      expect(() =>
        db.atomically(() => {
          bump()
          db.atomically(bump)
          throw new Error('the part')
        }),
      ).toThrow('the part')
      bump()
    })
    expect(count()).toBe(2)
  })

  it('makes what belongs together fail with the transaction it is in, and whole when alone', () => {
    expect(() =>
      db.together(() => {
        bump()
        throw new Error('alone')
      }),
    ).toThrow('alone')
    expect(count()).toBe(0)
    db.atomically(() => {
      db.together(bump)
      expect(waiting).toBe(1)
    })
    expect(count()).toBe(1)
  })

  it('waits for the disk again after what need not wait for it, whatever happens', () => {
    const level = (): unknown => db.sqlite.pragma('synchronous', { simple: true })
    const levels: unknown[] = []
    db.unhurriedly(() => {
      bump()
      levels.push(level())
    })
    expect(() =>
      db.unhurriedly(() => {
        bump()
        throw new Error('dropped')
      }),
    ).toThrow('dropped')
    db.atomically(() => db.unhurriedly(() => levels.push(level())))
    expect([levels, level(), count()]).toEqual([[1, 2], 2, 1])
  })

  it('raises its hand for each transaction of its own and takes it down whatever happens', () => {
    const heights: number[] = []
    db.atomically(() => {
      heights.push(waiting)
      db.atomically(() => heights.push(waiting))
    })
    expect(() => db.atomically(() => db.sqlite.prepare('INSERT INTO nowhere VALUES (1)'))).toThrow()
    expect([heights, waiting]).toEqual([[1, 1], 0])
  })

  it('raises its hand for what is done in turn, for as long as it takes', async () => {
    expect(db.inTurn(() => waiting)).toBe(1)
    expect(waiting).toBe(0)
    expect(() =>
      db.inTurn(() => {
        throw new Error('no')
      }),
    ).toThrow('no')
    expect(waiting).toBe(0)
    // Nothing can be awaited meanwhile: the turn is over before a promise is.
    const slow = db.inTurn(() => Promise.resolve().then(() => waiting))
    expect([waiting, await slow]).toEqual([0, 0])
  })

  it('goes by the index in a table that was nearly empty when it was looked at', () => {
    const plan = () =>
      (
        db.sqlite.prepare('EXPLAIN QUERY PLAN SELECT * FROM events WHERE seq > ? ORDER BY seq LIMIT ?').all(1, 2) as {
          detail: string
        }[]
      )[0]?.detail
    db.sqlite
      .prepare(
        "INSERT INTO events (at_ms, kind, object, record_id, changes, cause, chain_id, depth, rules_off) VALUES (1, 'created', 'deal', 1, '[]', '{}', 'x', 0, 0)",
      )
      .run()
    db.analyze()
    expect(plan()).toContain('SEARCH events')
    db.rereadStock()
    expect(plan()).toContain('SEARCH events')
  })

  it('refuses to change what is only ever added to', () => {
    db.sqlite
      .prepare(
        "INSERT INTO events (at_ms, kind, object, record_id, changes, cause, chain_id, depth, rules_off) VALUES (1, 'created', 'deal', 1, '[]', '{}', 'x', 0, 0)",
      )
      .run()
    expect(() => db.sqlite.prepare('UPDATE events SET depth = 1').run()).toThrow('only ever added to')
  })
})

describe('a prepared insert', () => {
  it('stores values as the schema reads them back', () => {
    const insert = prepareInsert(db.sqlite, events, [
      'atMs',
      'kind',
      'object',
      'recordId',
      'changes',
      'cause',
      'chainId',
      'depth',
      'rulesOff',
    ])
    const row = {
      atMs: 5,
      kind: 'changed',
      object: 'deal',
      recordId: 9,
      changes: [
        { field: 'name', old: null, new: 'Ünï "x"' },
        { field: 'labels', old: ['a'], new: ['a', 'b'] },
      ],
      cause: { by: 'person', personId: 'rosa' },
      chainId: 'c',
      depth: 2,
      rulesOff: true,
    } as const
    const { lastInsertRowid } = insert(row)
    expect(db.orm.select().from(events).all()).toEqual([{ seq: Number(lastInsertRowid), ...row }])
  })

  it('stores null for what is left out, and does nothing on a conflict only when told so', () => {
    const once = prepareInsert(db.sqlite, revisions, ['what', 'n'])
    expect(once({ what: 'rules', n: 1 }).changes).toBe(1)
    expect(() => once({ what: 'rules', n: 2 })).toThrow(/UNIQUE/)
    expect(prepareInsert(db.sqlite, revisions, ['what', 'n'], 'nothing')({ what: 'rules', n: 3 }).changes).toBe(0)
    expect(() =>
      prepareInsert(db.sqlite, outbox, [
        'key',
        'channel',
        'recipient',
        'subject',
        'body',
        'runId',
        'state',
        'attempts',
        'nextAt',
        'createdAt',
      ])({
        key: 'k',
        channel: 'mail',
        recipient: '',
        subject: '',
        body: '',
        runId: 4711,
        state: 'pending',
        attempts: 0,
        nextAt: 0,
        createdAt: 0,
      }),
    ).toThrow(/FOREIGN KEY/)
  })

  it('refuses a column that there is not', () => {
    expect(() => prepareInsert(db.sqlite, imports, ['colour' as 'id'])).toThrow(
      new RangeError('there is no column colour'),
    )
  })
})
