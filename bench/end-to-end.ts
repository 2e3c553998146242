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

const DEALS = 16_000
const BATCH = 500
const WARM_UP = 8
const NOW_MS = Date.UTC(2026, 10, 24, 9)

function fill(dbFile: string): Workspace {
  const workspace = openLarkmoor(
    { dbFile, migrationsFolder: MIGRATIONS, nowMs: NOW_MS, floodFrom: Infinity },
    new SetClock(NOW_MS),
  )
  workspace.db.atomically(() => {
    for (let i = 0; i < DEALS; i++)
      workspace.createBy(
        'deal',
        { name: `Deal ${i}`, stage: 'hp-sized', owner: 'rosa', amount: i },
        [],
        { by: 'person', personId: 'ines' },
        true,
      )
  })
  workspace.drain()
  const rule = document(
    { when: [enters('hp-quoted')], then: [task('Ring about {{deal.name}}', { again: true, email: true })] },
    'Quoted',
  )
  const id = workspace.store.rules.create(rule, 'ines', NOW_MS)
  workspace.store.rules.publish(id, rule, 'ines', NOW_MS)
  workspace.store.rules.setState(id, 'on', 'ines', NOW_MS)
  workspace.rulesChanged()
  // Both sides begin with everything in the file and nothing in the log.
  workspace.db.sqlite.pragma('wal_checkpoint(TRUNCATE)')
  return workspace
}

/** These deals enter Quoted: change, event, history, run, step, task and message, in one commit. In seconds. */
function throughTheEngine(workspace: Workspace, from: number, to: number): number {
  const started = performance.now()
  workspace.db.atomically(() => {
    for (let id = from; id < to; id++) {
      workspace.world.write(
        { object: 'deal', id },
        { stage: 'hp-quoted' },
        { by: 'person', personId: 'rosa' },
        { chainId: `c-${id}`, depth: 0 },
      )
    }
    workspace.handleNew()
  })
  return (performance.now() - started) / 1000
}

const TABLES = ['events', 'history', 'runs', 'run_steps', 'tasks', 'outbox'] as const
type Cells = Record<string, string | number | null>

/**
 * Writes the rows that the engine wrote once more, into a database of the same shape, by nothing but prepared
 * statements.
 */
class PlainStatements {
  private readonly from
  private readonly to
  private readonly last = new Map<string, number>()
  private readonly inserts
  private readonly read
  private readonly update
  private readonly close
  private readonly position
  private readonly columns: readonly string[]

  constructor(source: string, target: string) {
    this.from = new Database(source, { readonly: true })
    this.to = new Database(target)
    for (const one of ['synchronous = FULL', 'foreign_keys = ON', 'wal_autocheckpoint = 20000', 'cache_size = -65536'])
      this.to.pragma(one)
    this.inserts = TABLES.map((table) => {
      const names = (this.to.pragma(`table_info(${table})`) as { name: string }[]).map((column) => column.name)
      this.last.set(
        table,
        (this.from.prepare(`SELECT coalesce(max(rowid), 0) AS n FROM ${table}`).get() as { n: number }).n,
      )
      return this.to.prepare(
        `INSERT INTO ${table} (${names.join(', ')}) VALUES (${names.map((name) => `@${name}`).join(', ')})`,
      )
    })
    const values = (this.from.pragma('table_info(deals)') as { name: string }[])
      .map((column) => column.name)
      .filter((name) => name.startsWith('c_'))
    this.columns = values.filter((name) => values.indexOf(name) === 1 || values.indexOf(name) >= 15)
    this.read = this.to.prepare('SELECT * FROM deals WHERE id = ?')
    this.update = this.to.prepare(
      `UPDATE deals SET version = version + 1, updated_at = ?, ${this.columns.map((name) => `${name} = ?`).join(', ')} WHERE id = ?`,
    )
    this.close = this.to.prepare('UPDATE runs SET state = ?, stop = ?, seen = ?, ended_at = ? WHERE id = ?')
    this.position = this.to.prepare("UPDATE event_positions SET seq = ? WHERE reader = 'engine'")
  }

  /** In seconds; what is to be written is read before the clock starts. */
  write(from: number, to: number): number {
    const rows = TABLES.map(
      (table) =>
        this.from
          .prepare(`SELECT rowid AS at, * FROM ${table} WHERE rowid > ? ORDER BY rowid`)
          .all(this.last.get(table)) as (Cells & { at: number })[],
    )
    TABLES.forEach((table, i) => this.last.set(table, rows[i]?.at(-1)?.at ?? 0))
    const deals = this.from.prepare('SELECT * FROM deals WHERE id >= ? AND id < ?').all(from, to) as Cells[]
    const [events = [], , runs = []] = rows
    const perDeal = rows.map((some) => some.length / deals.length)
    const each = deals.map((_, n) =>
      rows.map((some, i) =>
        some.slice(n * (perDeal[i] ?? 0), (n + 1) * (perDeal[i] ?? 0)).map(({ at: _at, ...cells }) => cells),
      ),
    )
    const started = performance.now()
    this.to
      .transaction(() => {
        deals.forEach((deal, n) => {
          this.read.get(deal.id)
          this.update.run(NOW_MS, ...this.columns.map((name) => deal[name]), deal.id)
          each[n]?.forEach((some, i) => {
            for (const cells of some) this.inserts[i]?.run(cells)
          })
          const run = runs[n]
          if (run) this.close.run(run.state, run.stop, run.seen, run.ended_at, run.id)
        })
        this.position.run(events.at(-1)?.seq)
      })
      .immediate()
    return (performance.now() - started) / 1000
  }

  end(): void {
    this.from.close()
    this.to.close()
  }
}

const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN

/** Batches of both by turns, so that whatever else the machine does falls on both; the first ones only warm up. */
export function endToEnd(): readonly Row[] {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-bench-'))
  try {
    const [one, two] = [join(folder, 'a.db'), join(folder, 'b.db')]
    fill(two).close()
    const workspace = fill(one)
    const plain = new PlainStatements(one, two)
    const batches: { readonly engine: number; readonly plain: number }[] = []
    for (let from = 1; from <= DEALS; from += BATCH)
      batches.push({ engine: throughTheEngine(workspace, from, from + BATCH), plain: plain.write(from, from + BATCH) })
    const tasks = (workspace.db.sqlite.prepare('SELECT count(*) AS n FROM tasks').get() as { n: number }).n
    if (tasks !== DEALS) throw new Error(`${tasks} tasks for ${DEALS} changes`)
    plain.end()
    workspace.close()
    const warm = batches.slice(WARM_UP)
    const rate = (key: 'engine' | 'plain') => `${say(BATCH / median(warm.map((batch) => batch[key])))} changes/s`
    return [
      row('the same rows by plain prepared statements', rate('plain')),
      row(
        'from change to effects committed, 500 a commit',
        rate('engine'),
        median(warm.map((batch) => batch.plain / batch.engine)),
        { least: 0.7 },
      ),
    ]
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
