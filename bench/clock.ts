import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { nextDue } from '../core/engine/clockwork'
import { daysBefore, document, task } from '../core/testing/rules'
import { resultOf } from '../core/rehearsal/result'
import { addDays, dateAt } from '../core/time/dates'
import { openLarkmoor } from '../demo/fill'
import { MIGRATIONS } from '../crash/setting'
import { SetClock } from '../server/engine/clock'
import { planClock } from '../server/engine/clockwork'
import { setUpRehearsal } from '../server/engine/rehearsal'
import { row, type Row } from './measure'
import { withServer } from './served'

const PORT = '3122'
const p95 = (times: readonly number[]): number => [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? 0

/**
 * A workspace with many deals, some of them due at one moment; made without events, which the clock does not look at.
 */
function fill(dbFile: string, deals: number, dueAtOnce: number): ReturnType<typeof openLarkmoor> {
  const nowMs = Date.now()
  const today = dateAt(nowMs, 'Europe/Lisbon')
  const workspace = openLarkmoor(
    { dbFile, migrationsFolder: MIGRATIONS, nowMs, floodFrom: Infinity },
    new SetClock(nowMs),
  )
  const days = Array.from({ length: 3000 }, (_, i) => addDays(today, i - 1500))
  workspace.db.atomically(() => {
    for (let i = 0; i < deals; i++) {
      const closeDate = i < dueAtOnce ? addDays(today, 40) : (days[i % 3000] ?? today)
      workspace.store.records.insert(
        'deal',
        {
          name: `Deal ${i}`,
          stage: 'hp-sized',
          pipeline: 'hp',
          owner: 'rosa',
          amount: i % 100_000,
          closeDate: i >= dueAtOnce && closeDate > today && closeDate < addDays(today, 90) ? null : closeDate,
        },
        nowMs,
      )
    }
  })
  return workspace
}

/** What the clock costs: with nothing due, and with very many due at once while pages are read. */
export async function clocking(deals: number, dueAtOnce: number): Promise<readonly Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-clock-'))
  const dbFile = join(folder, 'clock.db')
  const rows: Row[] = []
  try {
    const workspace = fill(dbFile, deals, dueAtOnce)
    const rule = document({ when: [daysBefore(38)], then: [task('Ring {{deal.name}}', { again: true })] }, 'Near')
    const { rules } = workspace.store
    const id = rules.create(rule, 'ines', Date.now())
    rules.publish(id, rule, 'ines', Date.now())
    rules.setState(id, 'on', 'ines', Date.now())
    workspace.rulesChanged()
    const planned = performance.now()
    planClock(workspace)
    rows.push(
      row(
        `planning a rule by a date over ${deals.toLocaleString('en')} deals`,
        `${(performance.now() - planned).toFixed(0)} ms`,
      ),
    )
    const ticks: number[] = []
    for (let i = 0; i < 2000; i++) {
      const from = performance.now()
      nextDue(workspace.world)
      ticks.push(performance.now() - from)
    }
    rows.push(
      row(
        'a look at the clock with nothing due, p95 in ms',
        `p50 ${([...ticks].sort((a, b) => a - b)[1000] ?? 0).toFixed(3)} ms, p95 ${p95(ticks).toFixed(3)} ms`,
        p95(ticks),
        { most: 5 },
      ),
    )
    workspace.close()
    rows.push(...(await served(dbFile, dueAtOnce)))
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
  return rows
}

/** A year over some deals, each with its date in it and two tasks that come later. */
export function rehearsing(deals: number): readonly Row[] {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-rehearsal-'))
  try {
    const workspace = fill(join(folder, 'rehearsal.db'), 0, 0)
    const today = dateAt(Date.now(), 'Europe/Lisbon')
    workspace.db.atomically(() => {
      for (let i = 0; i < deals; i++)
        workspace.store.records.insert(
          'deal',
          {
            name: `Deal ${i}`,
            stage: 'hp-sized',
            pipeline: 'hp',
            owner: 'rosa',
            closeDate: addDays(today, 40 + (i % 120)),
          },
          Date.now(),
        )
    })
    const later = (count: number) => ({
      again: true,
      later: { at: 'after', amount: { count, unit: 'days' }, minute: 540 },
    })
    const rule = document(
      {
        when: [daysBefore(38)],
        then: [task('First {{deal.name}}', later(100)), task('Second {{deal.name}}', later(200))],
      },
      'Reviews',
    )
    const from = performance.now()
    const rehearsal = setUpRehearsal(workspace, {
      rules: [{ ruleId: 1, document: rule }],
      object: 'deal',
      ids: null,
      filter: null,
      days: 365,
      back: false,
      script: [],
    })
    rehearsal.goOn(() => false)
    const { tasks } = resultOf(rehearsal, rehearsal.startMs)
    const seconds = (performance.now() - from) / 1000
    workspace.close()
    return [
      row(
        `a rehearsal of a year over ${deals.toLocaleString('en')} deals with two later tasks each, in s`,
        `${seconds.toFixed(1)} s, ${tasks.length.toLocaleString('en')} tasks`,
        seconds,
        { most: 10 },
      ),
    ]
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** Through the built server: the clock is turned to the moment, and pages are read until all of them are done. */
async function served(dbFile: string, dueAtOnce: number): Promise<readonly Row[]> {
  return await withServer(PORT, dbFile, async (call) => {
    const state = new Database(dbFile, { readonly: true })
    const done = state.prepare('SELECT count(*) AS n FROM tasks')
    const { nowMs } = (await call('GET', '/clock')) as { nowMs: number }
    await call('POST', '/clock', { toMs: nowMs + 4 * 86_400_000 })
    const [records, record] = [[] as number[], [] as number[]]
    const from = performance.now()
    while ((done.get() as { n: number }).n < dueAtOnce && performance.now() - from < 300_000) {
      for (const [times, path] of [
        [records, '/records/deal?limit=50'],
        [record, '/records/deal/1'],
      ] as const) {
        const began = performance.now()
        await call('GET', path)
        times.push(performance.now() - began)
      }
      await new Promise((resolve) => setTimeout(resolve, 20))
    }
    const seconds = (performance.now() - from) / 1000
    const made = (done.get() as { n: number }).n
    state.close()
    return [
      row(
        `${dueAtOnce.toLocaleString('en')} due at once, through the built server`,
        `${seconds.toFixed(1)} s, ${made.toLocaleString('en')} tasks`,
      ),
      row('`GET /api/v1/records/deal` meanwhile, p95 in ms', `p95 ${p95(records).toFixed(0)} ms`, p95(records), {
        most: 100,
      }),
      row('one deal meanwhile, p95 in ms', `p95 ${p95(record).toFixed(0)} ms`, p95(record), { most: 100 }),
    ]
  })
}
