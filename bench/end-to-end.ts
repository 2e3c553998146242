import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { document, enters, task } from '../core/testing/rules'
import { openLarkmoor } from '../demo/fill'
import { SetClock } from '../server/engine/clock'
import type { Workspace } from '../server/engine/workspace'
import { MIGRATIONS } from '../crash/setting'
import { row, say, type Row } from './measure'

const DEALS = 4_000
const BATCH = 500
const NOW_MS = Date.UTC(2026, 10, 24, 9)

function fill(dbFile: string): Workspace {
  const workspace = openLarkmoor({ dbFile, migrationsFolder: MIGRATIONS, nowMs: NOW_MS }, new SetClock(NOW_MS))
  workspace.db.atomically(() => {
    for (let i = 0; i < DEALS; i++) workspace.createBy('deal', { name: `Deal ${i}`, stage: 'hp-sized', owner: 'rosa', amount: i }, [], { by: 'person', personId: 'ines' }, true)
  })
  workspace.drain()
  const rule = document({ when: [enters('hp-quoted')], then: [task('Ring about {{deal.name}}', { again: true, tell: true })] }, 'Quoted')
  const id = workspace.store.rules.create(rule, 'ines', NOW_MS)
  workspace.store.rules.publish(id, rule, 'ines', NOW_MS)
  workspace.store.rules.setState(id, 'on', 'ines', NOW_MS)
  workspace.rulesChanged()
  // Both sides begin with everything in the file and nothing in the log.
  workspace.db.sqlite.pragma('wal_checkpoint(TRUNCATE)')
  return workspace
}

/** Every deal enters Quoted: change, event, history, run, step, task and message, committed in batches. */
function throughTheEngine(workspace: Workspace): number {
  const started = performance.now()
  for (let from = 1; from <= DEALS; from += BATCH) {
    workspace.db.atomically(() => {
      for (let id = from; id < from + BATCH; id++) {
        workspace.world.write({ object: 'deal', id }, { stage: 'hp-quoted' }, { by: 'person', personId: 'rosa' }, { chainId: `c-${id}`, depth: 0 })
      }
      workspace.handleNew()
    })
  }
  return (DEALS / (performance.now() - started)) * 1000
}

const TABLES = ['events', 'history', 'runs', 'run_steps', 'tasks', 'outbox'] as const
type Cells = Record<string, string | number | null>

/** The rows the engine wrote, written again into a database of the same shape by nothing but prepared statements. */
function plainStatements(source: string, target: string): number {
  const from = new Database(source, { readonly: true })
  const rowsOf = (table: string, where: string): Cells[] => from.prepare(`SELECT * FROM ${table} ${where}`).all() as Cells[]
  const events = rowsOf('events', "WHERE chain_id LIKE 'c-%' ORDER BY seq")
  const byEvent = new Map(events.map((event) => [event.seq, { events: [event], history: [] as Cells[], runs: [] as Cells[], run_steps: [] as Cells[], tasks: [] as Cells[], outbox: [] as Cells[] }]))
  for (const one of rowsOf('history', '')) byEvent.get(one.event_seq ?? null)?.history.push(one)
  const runEvent = new Map<Cells[string], Cells[string]>()
  for (const run of rowsOf('runs', '')) {
    runEvent.set(run.id ?? null, run.event_seq ?? null)
    byEvent.get(run.event_seq ?? null)?.runs.push(run)
  }
  for (const table of ['run_steps', 'tasks', 'outbox'] as const) for (const one of rowsOf(table, '')) byEvent.get(runEvent.get(one.run_id ?? null) ?? null)?.[table].push(one)
  const deals = new Map(rowsOf('deals', '').map((deal) => [deal.id, deal]))
  const changed = Object.keys([...deals.values()][0] ?? {}).filter((name) => name.startsWith('c_'))
  const [stage, pipeline, since] = [changed[1], changed[15], changed[16]]
  from.close()

  const db = new Database(target)
  db.pragma('synchronous = FULL')
  db.pragma('foreign_keys = ON')
  db.pragma('wal_autocheckpoint = 20000')
  db.pragma('cache_size = -65536')
  const inserts = new Map(TABLES.map((table) => {
    const names = (db.pragma(`table_info(${table})`) as { name: string }[]).map((column) => column.name)
    return [table, { statement: db.prepare(`INSERT INTO ${table} (${names.join(', ')}) VALUES (${names.map((name) => `@${name}`).join(', ')})`) }] as const
  }))
  const read = db.prepare('SELECT * FROM deals WHERE id = ?')
  const update = db.prepare(`UPDATE deals SET version = version + 1, updated_at = ?, ${stage} = ?, ${pipeline} = ?, ${since} = ? WHERE id = ?`)
  const close = db.prepare('UPDATE runs SET state = ?, stop = ?, seen = ?, ended_at = ? WHERE id = ?')
  const position = db.prepare("UPDATE event_positions SET seq = ? WHERE reader = 'engine'")
  const all = [...byEvent.values()]
  const started = performance.now()
  for (let at = 0; at < all.length; at += BATCH) {
    db.transaction(() => {
      for (const one of all.slice(at, at + BATCH)) {
        const deal = deals.get(one.events[0]?.record_id ?? null)
        read.get(deal?.id)
        update.run(NOW_MS, deal?.[stage ?? ''], deal?.[pipeline ?? ''], deal?.[since ?? ''], deal?.id)
        for (const table of TABLES) for (const cells of one[table]) inserts.get(table)?.statement.run(cells)
        for (const run of one.runs) close.run(run.state, run.stop, run.seen, run.ended_at, run.id)
      }
      position.run(all[Math.min(at + BATCH, all.length) - 1]?.events[0]?.seq)
    }).immediate()
  }
  const perSecond = (all.length / (performance.now() - started)) * 1000
  db.close()
  return perSecond
}

export function endToEnd(): readonly Row[] {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-bench-'))
  try {
    const figures = [1, 2, 3].map((round) => {
      const [one, two] = [join(folder, `${round}a.db`), join(folder, `${round}b.db`)]
      const other = fill(two)
      other.close()
      const workspace = fill(one)
      const engine = throughTheEngine(workspace)
      const tasks = (workspace.db.sqlite.prepare('SELECT count(*) AS n FROM tasks').get() as { n: number }).n
      if (tasks !== DEALS) throw new Error(`${tasks} tasks for ${DEALS} changes`)
      workspace.close()
      return { engine, plain: plainStatements(one, two) }
    })
    const best = (key: 'engine' | 'plain') => Math.max(...figures.map((figure) => figure[key]))
    return [
      row('the same rows by plain prepared statements', `${say(best('plain'))} changes/s`),
      row('from change to effects committed, 500 a commit', `${say(best('engine'))} changes/s`, best('engine') / best('plain'), { least: 0.7 }),
    ]
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
