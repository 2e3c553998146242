import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { all, condition, document, enters, set, task } from '../core/testing/rules'
import { openLarkmoor } from '../demo/fill'
import { Random } from '../demo/random'
import { bundle } from '../scripts/bundle.mjs'
import { SetClock } from '../server/engine/clock'
import { addJob } from '../server/engine/rule-jobs'
import { Workspace } from '../server/engine/workspace'
import { runChild } from './kill'
import { MIGRATIONS } from './setting'
import { newChain } from '../server/engine/live-records'

const CHILD = '.worker/crash-jobs-child.mjs'
const RULE = document(
  {
    when: [enters('hp-quoted')],
    onlyIf: all(condition('amount', 'moreThan', { value: 100 }, false, 'c1')),
    then: [set('units', 3), task('Ring {{deal.name}}')],
  },
  'Large',
)

export interface JobsReport {
  readonly matching: number
  readonly kills: number
  /** What was found wrong; empty when each record was worked exactly once. */
  readonly wrong: readonly string[]
  readonly throughMs: number
  readonly undoMs: number
}

/**
 * Switches a rule on over records that match already, in a process that is killed again and again; looks whether each
 * was taken through once; changes some of them by hand, takes everything back in the same manner, and looks again.
 */
export async function jobsRounds({
  deals,
  kills,
  seed,
}: {
  readonly deals: number
  readonly kills: number
  readonly seed: number
}): Promise<JobsReport> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-jobs-'))
  const dbFile = join(folder, 'jobs.db')
  const random = new Random(seed)
  const wrong: string[] = []
  try {
    await bundle('crash/jobs-child.ts', CHILD)
    const workspace = openLarkmoor(
      { dbFile, migrationsFolder: MIGRATIONS, nowMs: Date.now(), floodFrom: Infinity },
      new SetClock(Date.now()),
    )
    workspace.db.atomically(() => {
      for (let i = 0; i < deals; i++)
        workspace.world.create(
          'deal',
          { name: `Deal ${i}`, stage: 'hp-sized', owner: 'rosa', amount: i % 10 === 0 ? 50 : 500, units: i % 7 },
          [],
          { by: 'person', personId: 'ines' },
          newChain(),
          true,
        )
    })
    workspace.drain()
    const { rules } = workspace.store
    const ruleId = rules.create(RULE, 'ines', Date.now())
    rules.publish(ruleId, RULE, 'ines', Date.now())
    rules.setState(ruleId, 'on', 'ines', Date.now())
    workspace.rulesChanged()
    const matching = deals - Math.ceil(deals / 10)
    addJob(workspace, ruleId, { what: 'backfill', object: 'deal', filter: RULE.conditions }, 'ines')
    workspace.close()
    const work = async (): Promise<number> => {
      for (let round = 0; round < kills; round++) await runChild(CHILD, [dbFile], random.int(1, 300))
      const from = performance.now()
      await runChild(CHILD, [dbFile], null)
      return performance.now() - from
    }
    const throughMs = await work()

    const between = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity })
    const one = (sql: string): number => (between.db.sqlite.prepare(sql).get() as { n: number }).n
    const expectIs = (what: string, found: number, wanted: number) => {
      if (found !== wanted) wrong.push(`${what}: ${found} instead of ${wanted}`)
    }
    expectIs('runs done', one("SELECT count(*) AS n FROM runs WHERE state = 'done'"), matching)
    expectIs('runs', one('SELECT count(*) AS n FROM runs'), matching)
    expectIs('records with a run', one('SELECT count(DISTINCT record_id) AS n FROM runs'), matching)
    expectIs('tasks', one('SELECT count(*) AS n FROM tasks'), matching)
    expectIs('records with a task', one('SELECT count(DISTINCT record_id) AS n FROM tasks'), matching)
    expectIs('work told as done', between.store.ruleJobs.get(1)?.done ?? 0, matching)
    // People work with what it did, before it is taken back.
    const touched = between.store.runs.list({ ruleId, limit: 20 }).map((run) => run.recordId)
    for (const id of touched) between.change({ object: 'deal', id }, { units: 77 }, 'rosa')
    addJob(between, ruleId, { what: 'undo', fromMs: 0, toMs: Date.now() + 60_000 }, 'ines')
    between.close()
    const undoMs = await work()

    const after = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity })
    const open = (
      after.db.sqlite.prepare("SELECT count(*) AS n FROM tasks WHERE state = 'open'").get() as { n: number }
    ).n
    if (open !== 0) wrong.push(`${open} tasks are still open`)
    let other = 0
    for (let id = 1; id <= deals; id++) {
      const units = after.store.records.read({ object: 'deal', id })?.values.units
      if (units !== (touched.includes(id) ? 77 : (id - 1) % 7)) other++
    }
    if (other > 0) wrong.push(`${other} deals hold other units than before`)
    const left = after.store.ruleJobs.get(2)?.left ?? []
    // Where 3 stood already, the rule wrote nothing that could be taken back.
    const written = touched.filter((id) => (id - 1) % 7 !== 3).length
    if (left.length !== written) wrong.push(`${left.length} named as changed since, instead of ${written}`)
    after.close()
    return { matching, kills: kills * 2, wrong, throughMs, undoMs }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** `node scripts/bundled.mjs crash/jobs.ts [deals] [kills]` */
export async function main(args: readonly string[]): Promise<void> {
  const report = await jobsRounds({ deals: Number(args[0] ?? 22_223), kills: Number(args[1] ?? 5), seed: 20_261 })
  process.stdout.write(`${JSON.stringify(report, null, 2)}\n`)
  process.exitCode = report.wrong.length === 0 ? 0 : 1
}
