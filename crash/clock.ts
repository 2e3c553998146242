import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { daysBefore, document, set, task, type StepLine } from '../core/testing/rules'
import { resultOf } from '../core/rehearsal/result'
import { addDays, dateAt } from '../core/time/dates'
import { openLarkmoor } from '../demo/fill'
import { Random } from '../demo/random'
import { bundle } from '../scripts/bundle.mjs'
import { SetClock } from '../server/engine/clock'
import { setUpRehearsal } from '../server/engine/rehearsal'
import { Workspace } from '../server/engine/workspace'
import { runChild } from './kill'
import { MIGRATIONS } from './setting'
import { newChain } from '../server/engine/live-records'

const CHILD = '.worker/crash-clock-child.mjs'
const DAYS = 31
const wait: StepLine = [
  'wait',
  { until: { at: 'after', amount: { count: 2, unit: 'days' }, minute: null }, recheck: true },
]
const RULES = [
  document(
    {
      when: [daysBefore(3)],
      then: [
        task('Near {{deal.name}}', { again: true }),
        wait,
        set('units', 3),
        task('Behind {{deal.name}}', { again: true }),
      ],
    },
    'Near',
  ),
  document(
    {
      when: [daysBefore(3)],
      then: [
        task('Later {{deal.name}}', {
          again: true,
          later: { at: 'after', amount: { count: 5, unit: 'days' }, minute: 600 },
        }),
      ],
    },
    'Later',
  ),
  document(
    {
      when: [
        ['recurring', { rule: { rule: 'FREQ=WEEKLY;BYDAY=TH', from: '2026-01-01' }, minute: 930, offDays: 'keep' }],
      ],
      then: [task('Weekly {{deal.name}}', { again: true })],
    },
    'Weekly',
  ),
]

export interface ClockReport {
  readonly kills: number
  readonly tasks: number
  /** What was found wrong; empty when each thing was done exactly once, and all that a rehearsal said. */
  readonly wrong: readonly string[]
}

/**
 * Lets a month pass in a process that is killed again and again, and looks whether everything that a rehearsal foretold
 * was done, once.
 */
export async function clockRounds({
  deals,
  kills,
  seed,
}: {
  readonly deals: number
  readonly kills: number
  readonly seed: number
}): Promise<ClockReport> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-clock-'))
  const dbFile = join(folder, 'clock.db')
  const random = new Random(seed)
  const wrong: string[] = []
  try {
    await bundle('crash/clock-child.ts', CHILD)
    const nowMs = Date.now()
    const today = dateAt(nowMs, 'Europe/Lisbon')
    const workspace = openLarkmoor(
      { dbFile, migrationsFolder: MIGRATIONS, nowMs, floodFrom: Infinity },
      new SetClock(nowMs),
    )
    workspace.db.atomically(() => {
      for (let i = 0; i < deals; i++)
        workspace.world.create(
          'deal',
          { name: `Deal ${i}`, stage: 'hp-sized', owner: 'rosa', closeDate: addDays(today, 4 + (i % 24)) },
          [],
          { by: 'person', personId: 'ines' },
          newChain(),
          true,
        )
    })
    workspace.drain()
    const { rules } = workspace.store
    for (const rule of RULES) {
      const id = rules.create(rule, 'ines', nowMs)
      rules.publish(id, rule, 'ines', nowMs)
      rules.setState(id, 'on', 'ines', nowMs)
    }
    workspace.rulesChanged()
    const toMs = nowMs + DAYS * 86_400_000
    const rehearsal = setUpRehearsal(workspace, {
      rules: RULES.map((rule, i) => ({ ruleId: i + 1, document: rule })),
      object: 'deal',
      ids: null,
      filter: null,
      days: DAYS,
      back: false,
      script: [],
    })
    rehearsal.goOn(() => false)
    const foretold = resultOf(rehearsal, nowMs)
      .tasks.map((one) => `${one.title} ${one.ref.id}`)
      .sort()
    workspace.close()
    for (let round = 0; round < kills; round++) await runChild(CHILD, [dbFile, String(toMs)], random.int(1, 250))
    await runChild(CHILD, [dbFile, String(toMs)], null)
    const after = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity })
    const made = (
      after.db.sqlite.prepare('SELECT title, record_id FROM tasks').all() as { title: string; record_id: number }[]
    )
      .map((one) => `${one.title} ${one.record_id}`)
      .sort()
    const counts = new Map<string, number>()
    for (const one of made) counts.set(one, (counts.get(one) ?? 0) + 1)
    const expected = new Map<string, number>()
    for (const one of foretold) expected.set(one, (expected.get(one) ?? 0) + 1)
    for (const key of new Set([...counts.keys(), ...expected.keys()]))
      if (counts.get(key) !== expected.get(key) && wrong.length < 20)
        wrong.push(`${key}: ${counts.get(key) ?? 0} times instead of ${expected.get(key) ?? 0}`)
    after.close()
    return { kills, tasks: made.length, wrong }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** `node scripts/bundled.mjs crash/clock.ts [deals] [kills]` */
export async function main(args: readonly string[]): Promise<void> {
  const report = await clockRounds({ deals: Number(args[0] ?? 600), kills: Number(args[1] ?? 40), seed: 20_261 })
  process.stdout.write(`${JSON.stringify(report, null, 2)}\n`)
  process.exitCode = report.wrong.length === 0 ? 0 : 1
}
