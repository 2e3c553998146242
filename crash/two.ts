import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { document, enters, task, type StepLine } from '../core/testing/rules'
import type { FieldChange } from '../core/records/record'
import { openLarkmoor } from '../demo/fill'
import { Random } from '../demo/random'
import { bundle } from '../scripts/bundle.mjs'
import { SetClock } from '../server/engine/clock'
import { runChild } from './kill'
import { MIGRATIONS } from './setting'

const CHILD = '.worker/crash-two-child.mjs'

const wait: StepLine = [
  'wait',
  { until: { at: 'after', amount: { count: 3, unit: 'minutes' }, minute: null }, recheck: false },
]
const RULE = document(
  {
    when: [enters('hp-quoted')],
    then: [
      task('Ring {{deal.name}}', { again: true, email: true }),
      wait,
      task('Ring {{deal.name}} again', { again: true }),
    ],
  },
  'Quoted',
)

export interface TwoReport {
  readonly killed: number
  readonly acknowledged: number
  readonly runs: number
  readonly wrong: readonly string[]
}

function prepare(dbFile: string): void {
  const nowMs = Date.now()
  const workspace = openLarkmoor(
    { dbFile, migrationsFolder: MIGRATIONS, nowMs, floodFrom: Infinity },
    new SetClock(nowMs),
  )
  const { rules } = workspace.store
  const id = rules.create(RULE, 'ines', nowMs)
  rules.publish(id, RULE, 'ines', nowMs)
  rules.setState(id, 'on', 'ines', nowMs)
  workspace.rulesChanged()
  for (let i = 0; i < 20; i++)
    workspace.create('deal', { name: `Deal ${i}`, stage: 'hp-sized', owner: 'rosa', amount: 10_000 }, [], 'ines')
  workspace.close()
}

/** What the database must hold, counted from the log alone. */
function check(dbFile: string, acknowledged: readonly number[]): { readonly runs: number; readonly wrong: string[] } {
  const wrong: string[] = []
  const db = new Database(dbFile)
  const all = <T>(sql: string): T[] => db.prepare(sql).all() as T[]
  const count = (sql: string): number => (db.prepare(sql).get() as { n: number }).n
  const same = (what: string, found: number, due: number): void => {
    if (found !== due) wrong.push(`${what}: ${found} instead of ${due}`)
  }
  const events = all<{ seq: number; changes: string }>("SELECT seq, changes FROM events WHERE object = 'deal'")
  const there = new Set(events.map((event) => event.seq))
  same('acknowledged changes that are lost', acknowledged.filter((seq) => !there.has(seq)).length, 0)
  const due = events.filter(({ changes }) =>
    (JSON.parse(changes) as FieldChange[]).some((one) => one.field === 'stage' && one.new === 'hp-quoted'),
  ).length
  same('runs', count('SELECT count(*) AS n FROM runs'), due)
  same('runs that are done', count("SELECT count(*) AS n FROM runs WHERE state = 'done'"), due)
  same('tasks', count('SELECT count(*) AS n FROM tasks'), 2 * due)
  same('waits left', count('SELECT count(*) AS n FROM waits'), 0)
  same('messages', count("SELECT count(*) AS n FROM outbox WHERE state = 'delivered'"), due)
  same('messages at the receiver', count('SELECT count(*) AS n FROM stand_in_mail'), due)
  same('runs counted by the day', count('SELECT coalesce(sum(runs), 0) AS n FROM rule_days'), due)
  same(
    'events that rules never saw',
    count("SELECT count(*) AS n FROM events WHERE seq > (SELECT seq FROM event_positions WHERE reader = 'engine')"),
    0,
  )
  const integrity = all<{ integrity_check: string }>('PRAGMA integrity_check')
  if (integrity[0]?.integrity_check !== 'ok') wrong.push(`integrity_check: ${integrity[0]?.integrity_check}`)
  db.close()
  return { runs: due, wrong }
}

/**
 * Two processes change deals of one database, work its clock and hand over its messages, and are killed again and
 * again, each `kills` times. Nothing is lost and nothing done twice.
 */
export async function twoProcesses({
  kills,
  seed,
}: {
  readonly kills: number
  readonly seed: number
}): Promise<TwoReport> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-two-'))
  const dbFile = join(folder, 'two.db')
  const random = new Random(seed)
  const acknowledged: number[] = []
  try {
    await bundle('crash/two-child.ts', CHILD)
    prepare(dbFile)
    const keepKilling = async (which: number): Promise<void> => {
      for (let round = 0; round < kills; round++)
        await runChild(CHILD, [dbFile, String(seed * 1000 + which * 500 + round)], random.int(1, 600), (line) => {
          if (line.startsWith('changed ')) acknowledged.push(Number(line.slice(8)))
        })
    }
    await Promise.all([keepKilling(1), keepKilling(2)])
    await runChild(CHILD, [dbFile, String(seed), '--finish'], null)
    return { killed: 2 * kills, acknowledged: acknowledged.length, ...check(dbFile, acknowledged) }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** `node scripts/bundled.mjs crash/two.ts [kills of each]` */
export async function main(args: readonly string[]): Promise<void> {
  const report = await twoProcesses({ kills: Number(args[0] ?? 50), seed: 11 })
  process.stdout.write(`${JSON.stringify(report, null, 2)}\n`)
  if (report.wrong.length > 0) process.exitCode = 1
}
