import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { document, task } from '../core/testing/rules'
import { openLarkmoor } from '../demo/fill'
import { SetClock } from '../server/engine/clock'
import { tellActivities, type GivenActivity } from '../server/engine/activities'
import { makeCard } from '../server/engine/scorecards'
import type { Workspace } from '../server/engine/workspace'
import { MIGRATIONS } from '../crash/setting'
import { row, say, type Row } from './measure'
import { withServer } from './served'

const CONTACTS = 2000
const BATCH = 1000
const BATCHES = 6
const NOW_MS = Date.UTC(2026, 10, 24, 9)
const TABLES = ['activities', 'events', 'history', 'runs', 'run_steps', 'tasks'] as const
type Cells = Record<string, string | number | null>

function fill(dbFile: string): Workspace {
  const workspace = openLarkmoor(
    { dbFile, migrationsFolder: MIGRATIONS, nowMs: NOW_MS, floodFrom: Infinity },
    new SetClock(NOW_MS),
  )
  workspace.db.atomically(() => {
    for (let i = 0; i < CONTACTS; i++)
      workspace.createBy(
        'contact',
        { name: `Contact ${i}`, email: `c${i}@x.example`, owner: 'rosa' },
        [],
        { by: 'person', personId: 'ines' },
        true,
      )
  })
  workspace.drain()
  makeCard(
    workspace,
    'contact',
    {
      name: 'Keen',
      least: null,
      most: null,
      bands: [{ id: 'low', name: 'Low', from: 0 }],
      lines: (['price', 'rooms'] as const).map((about, i) => ({
        id: `l${i}`,
        points: 5,
        most: 50,
        for: {
          what: 'doing' as const,
          kind: 'visit' as const,
          about,
          from: null,
          fading: { how: 'half' as const, days: 14 },
        },
      })),
    },
    'ines',
  )
  const rule = document({
    object: 'contact',
    when: [['activity', { kind: 'visit', by: 'contact', about: 'price', late: false }]],
    then: [task('Ring {{contact.name}}', { again: true })],
  })
  const id = workspace.store.rules.create(rule, 'ines', NOW_MS)
  workspace.store.rules.publish(id, rule, 'ines', NOW_MS)
  workspace.store.rules.setState(id, 'on', 'ines', NOW_MS)
  workspace.rulesChanged()
  workspace.db.sqlite.pragma('wal_checkpoint(TRUNCATE)')
  return workspace
}

/** Every fifth is one that the rule goes by; all of them count for the score. */
const given = (batch: number): readonly GivenActivity[] =>
  Array.from({ length: BATCH }, (_, i) => ({
    record: { email: `c${(batch * 733 + i * 7) % CONTACTS}@x.example` },
    kind: 'visit',
    about: i % 5 === 0 ? '/prices/hire' : '/rooms',
    atMs: null,
    key: `b${batch}-${i}`,
  }))

/** The very rows once more, by prepared statements into a database of the same shape. In seconds. */
function plainly(source: string, target: string, after: ReadonlyMap<string, number>): number {
  const [from, to] = [new Database(source, { readonly: true }), new Database(target)]
  for (const one of ['synchronous = FULL', 'foreign_keys = OFF', 'cache_size = -65536']) to.pragma(one)
  const work = TABLES.map((table) => {
    const names = (to.pragma(`table_info(${table})`) as { name: string }[]).map(({ name }) => name)
    return {
      insert: to.prepare(
        `INSERT INTO ${table} (${names.join(', ')}) VALUES (${names.map((name) => `@${name}`).join(', ')})`,
      ),
      rows: from.prepare(`SELECT * FROM ${table} WHERE rowid > ? ORDER BY rowid`).all(after.get(table)) as Cells[],
    }
  })
  const contacts = from.prepare('SELECT id FROM contacts').all() as { id: number }[]
  const read = to.prepare('SELECT * FROM contacts WHERE id = ?')
  const update = to.prepare('UPDATE contacts SET version = version + 1, updated_at = ? WHERE id = ?')
  const started = performance.now()
  // As many commits as there were batches of activities.
  const commits = (BATCH * BATCHES) / 200
  for (let n = 0; n < commits; n++)
    to.transaction(() => {
      for (const { insert, rows } of work)
        for (const cells of rows.slice((rows.length * n) / commits, (rows.length * (n + 1)) / commits))
          insert.run(cells)
      for (let i = 0; i < 200; i++) {
        const { id } = contacts[(n * 200 + i) % contacts.length] ?? { id: 0 }
        read.get(id)
        update.run(NOW_MS, id)
      }
    }).immediate()
  const seconds = (performance.now() - started) / 1000
  from.close()
  to.close()
  return seconds
}

/** How many a second are taken as the website script sends them: one request and one commit each. */
async function reports(count = 500): Promise<number> {
  const key = (n: number): string => n.toString(16).padStart(32, '0')
  const begun = performance.now()
  await Promise.all(
    Array.from({ length: 20 }, async (_, visitor) => {
      for (let n = visitor; n < count; n += 20) {
        const answer = await fetch('http://localhost:3199/site/activities', {
          method: 'POST',
          body: JSON.stringify({
            visitor: key(visitor),
            key: key(1000 + n),
            kind: 'visit',
            about: '/prices/hire',
            data: {},
            email: `c${visitor}@x.example`,
          }),
        })
        if (!answer.ok) throw new Error(`the script is answered ${answer.status}: ${await answer.text()}`)
      }
    }),
  )
  return count / ((performance.now() - begun) / 1000)
}

/** Activities with scores and a rule on, beside plain statements; by the API; and the page of a contact with many. */
export async function activities(): Promise<readonly Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-bench-'))
  try {
    const [source, target] = [join(folder, 'a.db'), join(folder, 'b.db')]
    const workspace = fill(source)
    const after = new Map(
      TABLES.map((table) => [
        table as string,
        (workspace.db.sqlite.prepare(`SELECT coalesce(max(rowid), 0) AS n FROM ${table}`).get() as { n: number }).n,
      ]),
    )
    await workspace.db.sqlite.backup(target)
    const started = performance.now()
    for (let batch = 0; batch < BATCHES; batch++) tellActivities(workspace, given(batch))
    const seconds = (performance.now() - started) / 1000
    workspace.close()
    const plain = plainly(source, target, after)
    const many = BATCH * BATCHES
    const served = join(folder, 'c.db')
    const other = fill(served)
    const busy = other.store.records.findBy('contact', 'email', 'c0@x.example')[0]?.id ?? 1
    other.db.atomically(() => {
      for (let i = 0; i < 10_000; i++)
        other.store.activities.add(
          {
            ref: { object: 'contact', id: busy },
            kind: 'visit',
            about: '/prices',
            atMs: NOW_MS - i * 60_000,
            key: null,
          },
          NOW_MS,
        )
    })
    other.close()
    const { perSecond, byScript, p95 } = await withServer('3199', served, async (call) => {
      const begun = performance.now()
      for (let batch = 0; batch < BATCHES; batch++)
        await call('POST', '/activities', {
          activities: given(batch).map(({ kind, about, key, record }) => ({
            kind,
            about,
            key,
            email: 'email' in record ? record.email : '',
          })),
        })
      const perSecond = many / ((performance.now() - begun) / 1000)
      const byScript = await reports()
      const times: number[] = []
      for (let i = 0; i < 60; i++) {
        const at = performance.now()
        await call('GET', `/records/contact/${busy}`)
        times.push(performance.now() - at)
      }
      times.sort((a, b) => a - b)
      return { perSecond, byScript, p95: times[Math.floor(times.length * 0.95)] ?? 0 }
    })
    return [
      row('Activities a second, with scores and a rule', say(many / seconds), plain / seconds, { least: 0.5 }),
      row('… the same rows by plain statements', say(many / plain)),
      row('Activities a second by the API, 1,000 at a time', say(perSecond)),
      row('Activities a second by the website script, one at a time from 20 visitors', say(byScript)),
      row('The page of a contact with 10,000 activities, p95 in ms', say(p95), p95, { most: 100 }),
    ]
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
