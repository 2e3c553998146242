import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { goalKey, type Goal } from '../core/rules/goal'
import { document, enters, task } from '../core/testing/rules'
import { MIGRATIONS } from '../crash/setting'
import { openLarkmoor } from '../demo/fill'
import { SetClock } from '../server/engine/clock'
import { searchHabits } from '../server/engine/habits'
import { countResults } from '../server/engine/results'
import { lookForProblems } from '../server/problems'
import { row, type Row } from './measure'
import { withServer } from './served'

const PORT = '3197'
const RULES = 40
const RUNS = 1_000_000
const DEALS = 100_000
const EVENTS = 1_000_000
const DAY_MS = 86_400_000
const MOST_MS = 150
const LOOKS = 60

const GOAL: Goal = {
  conditions: {
    kind: 'group',
    id: 'c9',
    mode: 'all',
    items: [{ kind: 'condition', id: 'c8', field: 'stage', op: 'is', not: false, params: { value: 'hp-signed' } }],
  },
  days: 14,
  alone: 20,
}
const ROUTES = ['/overview', '/results', '/rules/1/results', '/problems', '/suggestions', '/team']
const control = {
  awaited: () => false,
  nowMs: () => performance.now(),
  pause: () => new Promise<void>((resolve) => setImmediate(resolve)),
}

/** Results, problems and the overview with very many runs; the search for habits in a long history. */
export async function worth(): Promise<readonly Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-worth-'))
  try {
    const dbFile = join(folder, 'worth.db')
    const nowMs = Date.now()
    const given = { dbFile, migrationsFolder: MIGRATIONS, nowMs, floodFrom: Infinity }
    const workspace = openLarkmoor(given, new SetClock(nowMs))
    const { store, db } = workspace
    for (let at = 0; at < DEALS; at += 5000)
      db.atomically(() => {
        for (let i = at; i < at + 5000; i++)
          workspace.world.create(
            'deal',
            { name: `Deal ${i}`, stage: 'hp-sized', owner: i % 5000 === 0 ? null : 'rosa', amount: i },
            [],
            { by: 'person', personId: 'ines' },
            { chainId: `bench-${i}`, depth: 0 },
          )
      })
    db.atomically(() => {
      const insertRun = db.sqlite.prepare(`INSERT INTO runs
        (rule_id, version_id, object, record_id, occurrence, event_seq, chain_id, depth, state, because, seen, started_at, last_at)
        VALUES (?, ?, 'deal', ?, ?, 1, 'c', 0, ?, 'it entered Quoted', '[]', ?, ?)`)
      const insertMeasure = db.sqlite.prepare(`INSERT OR IGNORE INTO measures
        (rule_id, version_id, run_id, object, record_id, key, at_ms, until_ms, alone, already, owner_id, labels, by_day, reached_at)
        VALUES (?, ?, ?, 'deal', ?, ?, ?, ?, ?, 0, 'rosa', '[]', 0, ?)`)
      const insertTask = db.sqlite.prepare(`INSERT INTO tasks
        (object, record_id, title, notes, task_kind, priority, due, assignee_id, state, outcome, because, rule_id, run_id, step_id, created_at, done_at, done_by)
        VALUES ('deal', ?, 'Ring', '', 'call', 'normal', '2026-01-01', 'rosa', ?, '', 'x', ?, ?, 's1', ?, ?, 'rosa')`)
      const day = db.sqlite.prepare(
        'INSERT INTO rule_days (rule_id, day, runs, failed, last_at) VALUES (?, ?, ?, 0, ?) ON CONFLICT DO NOTHING',
      )
      const made = Array.from({ length: RULES }, (_, i) => {
        const rule = {
          ...document({ when: [enters('hp-quoted')], then: [task(`Ring ${i}`)] }, `Rule ${i}`),
          goal: GOAL,
        }
        const id = store.rules.create(rule, 'ines', nowMs)
        store.rules.publish(id, rule, 'ines', nowMs)
        store.rules.setState(id, 'on', 'ines', nowMs)
        for (let back = 0; back < 90; back++) day.run(id, Math.floor(nowMs / DAY_MS) - back, RUNS / RULES / 90, nowMs)
        return { id, version: store.rules.get(id)?.version?.id ?? 0 }
      })
      const key = goalKey(GOAL)
      for (let i = 0; i < RUNS; i++) {
        const one = made[i % RULES]
        const atMs = nowMs - ((i * 7919) % 90) * DAY_MS
        const state = i % 5000 === 0 ? 'failed' : 'done'
        const record = 1 + Math.floor(i / RULES) * 4
        const run = insertRun.run(one?.id, one?.version, record, `bench:${i}`, state, atMs, atMs)
        const reached = i % 3 === 0 ? atMs + (i % 14) * DAY_MS : null
        const alone = i % 5 === 0 ? 1 : 0
        insertMeasure.run(
          one?.id,
          one?.version,
          run.lastInsertRowid,
          record,
          key,
          atMs,
          atMs + 15 * DAY_MS,
          alone,
          reached,
        )
        if (i % 5 === 1)
          insertTask.run(
            record,
            i % 40 === 1 ? 'open' : 'done',
            one?.id,
            run.lastInsertRowid,
            atMs,
            i % 40 === 1 ? null : atMs + 3_600_000,
          )
      }
    })
    db.analyze()
    workspace.rulesChanged()
    const counting = performance.now()
    await countResults(workspace, control)
    const countedMs = performance.now() - counting
    const looking = performance.now()
    lookForProblems(workspace, true)
    const lookedMs = performance.now() - looking

    // Changes by hand of the last 150 days, ten a record, with a habit among them.
    const { seq } = db.sqlite.prepare('SELECT max(seq) AS seq FROM events').get() as { seq: number }
    db.atomically(() => {
      const insert = db.sqlite.prepare(`INSERT INTO events
        (at_ms, kind, object, record_id, changes, cause, chain_id, depth, rules_off)
        VALUES (?, 'changed', 'deal', ?, ?, '{"by":"person","personId":"rosa"}', 'c', 0, 0)`)
      const stages = ['hp-visit', 'hp-sized', 'hp-quoted', 'hp-terms']
      for (let i = 0; i < EVENTS; i++) {
        const record = 1 + (i % DEALS)
        const turn = Math.floor(i / DEALS)
        const atMs = nowMs - 150 * DAY_MS + turn * 13 * DAY_MS + ((i * 7919) % DAY_MS)
        const habit = turn === 6 && record % 3 === 0
        const changes = habit
          ? [{ field: 'labels', old: null, new: ['press'] }]
          : turn === 5 && record % 3 === 0
            ? [{ field: 'kind', old: null, new: 'hire' }]
            : [{ field: 'stage', old: null, new: stages[(i * 31 + turn) % 4] }]
        insert.run(habit ? atMs - 12 * DAY_MS : atMs, record, JSON.stringify(changes))
      }
    })
    // They were put there by themselves: no rule has to see them.
    store.events.setPosition('engine', seq + EVENTS)
    const searching = performance.now()
    await searchHabits(workspace, control)
    const searchedMs = performance.now() - searching
    const found = store.habits.open().length
    workspace.close()

    const rows: Row[] = [
      row(
        `Counting ${RUNS.toLocaleString('en')} runs anew, with their targets and tasks`,
        `${(countedMs / 1000).toFixed(1)} s in pieces of a few ms`,
      ),
      row(
        `A look for problems of every kind, ${DEALS.toLocaleString('en')} records`,
        `${lookedMs.toFixed(0)} ms, once a minute, off the serving thread`,
      ),
      row(
        `The search for habits in ${(EVENTS + seq).toLocaleString('en')} changes, in seconds`,
        `${(searchedMs / 1000).toFixed(1)} s, ${found} found`,
        searchedMs / 1000,
        { most: 60 },
      ),
    ]
    await withServer(PORT, dbFile, async (call) => {
      for (const route of ROUTES) {
        const times: number[] = []
        for (let i = 0; i < LOOKS; i++) {
          const from = performance.now()
          await call('GET', route)
          times.push(performance.now() - from)
        }
        times.sort((a, b) => a - b)
        const p95 = times[Math.floor(LOOKS * 0.95)] ?? 0
        rows.push(
          row(
            `\`GET /api/v1${route}\` with ${RUNS.toLocaleString('en')} runs and ${DEALS.toLocaleString('en')} records, p95 in ms`,
            `p50 ${(times[LOOKS / 2] ?? 0).toFixed(0)} ms, p95 ${p95.toFixed(0)} ms`,
            p95,
            { most: MOST_MS },
          ),
        )
      }
    })
    return rows
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
