import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { document, enters, set, task } from '../core/testing/rules'
import { openLarkmoor } from '../demo/fill'
import { SetClock } from '../server/engine/clock'
import { MIGRATIONS } from '../crash/setting'
import { row, type Row } from './measure'
import { plans, type Plan } from './plans'

const PORT = '3121'
const BASE = `http://localhost:${PORT}/api/v1`

const RULES = [
  document({ when: [enters('hp-terms')], then: [set('units', 7)] }, 'One'),
  document(
    {
      when: [['created', {}]],
      onlyIf: {
        kind: 'group',
        id: 'c0',
        mode: 'all',
        items: [
          { kind: 'condition', id: 'c1', field: 'amount', op: 'moreThan', not: false, params: { value: 90_000 } },
        ],
      },
      then: [task('Ring about {{deal.name}}')],
    },
    'Two',
  ),
  document({ when: [enters('hp-quoted')], then: [task('Follow up')] }, 'Three'),
  document(
    {
      when: [['fieldChanges', { field: 'units', how: 'filled', from: null, to: null }]],
      then: [set('notes', 'counted')],
    },
    'Four',
  ),
  document({ when: [enters('hp-lost')], then: [set('lostReason', 'timing')] }, 'Five'),
]
const STAGES = ['Site visit', 'Sized', 'Sized', 'Sized', 'Quoted', 'Terms', 'Sized', 'Sized', 'Sized', 'Lost']

const p = (times: readonly number[], share: number): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length * share)] ?? 0
const spread = (times: readonly number[]): string =>
  `p50 ${p(times, 0.5).toFixed(0)} ms, p95 ${p(times, 0.95).toFixed(0)} ms, p99 ${p(times, 0.99).toFixed(0)} ms`

/**
 * Brings deals in through the built server, with five rules on, while a page is read and a card is moved again and
 * again.
 */
export async function importing(
  rows: number,
): Promise<{ readonly rows: readonly Row[]; readonly plans: readonly Plan[] }> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-import-'))
  const dbFile = join(folder, 'import.db')
  const workspace = openLarkmoor({ dbFile, migrationsFolder: MIGRATIONS, nowMs: Date.now() }, new SetClock(Date.now()))
  for (const rule of RULES) {
    const id = workspace.store.rules.create(rule, 'ines', Date.now())
    workspace.store.rules.publish(id, rule, 'ines', Date.now())
    workspace.store.rules.setState(id, 'on', 'ines', Date.now())
  }
  workspace.rulesChanged()
  workspace.create('deal', { name: 'Mine', stage: 'hp-visit', owner: 'rosa' }, [], 'ines')
  workspace.close()
  const server = spawn('node', ['.output/server/index.mjs'], {
    env: { ...process.env, PORT, SKY_LEVER_DB: dbFile, SKY_LEVER_FLOOD_FROM: 'Infinity' },
    stdio: 'ignore',
  })
  let cookie = ''
  const call = async (method: string, path: string, body?: object) => {
    const answer = await fetch(BASE + path, {
      method,
      headers: { cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
      ...(body ? { body: JSON.stringify(body) } : {}),
    })
    cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? cookie
    if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`)
    return (await answer.json()) as Record<string, unknown>
  }
  const timed = async (work: () => Promise<unknown>): Promise<number> => {
    const started = performance.now()
    await work()
    return performance.now() - started
  }
  try {
    for (let tries = 0; tries < 100; tries++) {
      if (
        await fetch(`${BASE}/session`).then(
          (answer) => answer.ok,
          () => false,
        )
      )
        break
      await new Promise((resolve) => setTimeout(resolve, 100))
    }
    await call('POST', '/session/demo', { personId: 'ines' })
    const content = [
      'Reference,Name,Company,Stage,Owner,Amount',
      ...Array.from(
        { length: rows },
        (_, i) => `B-${i},Deal number ${i},Firm ${i % 2000},${STAGES[i % 10]},Rosa Amara,${i % 100_000}`,
      ),
    ].join('\n')
    const taken = await timed(async () => {
      const { id } = await call('POST', '/imports', { fileName: 'big.csv', content })
      importId = Number(id)
    })
    const previewed = await timed(() => call('GET', `/imports/${importId}`))
    const page: number[] = []
    const move: number[] = []
    const table: number[] = []
    const stages = ['hp-visit', 'hp-sized', 'hp-quoted', 'hp-terms']
    const started = performance.now()
    await call('POST', `/imports/${importId}/run`, { rulesOn: true })
    const state = new Database(dbFile, { readonly: true })
    const done = state.prepare('SELECT state FROM imports')
    for (let n = 0; (done.get() as { state: string }).state !== 'done'; n++) {
      page.push(await timed(() => call('GET', '/records/deal?limit=50')))
      if (n % 4 === 0) table.push(await timed(() => call('GET', '/record-lists/deal?limit=100')))
      move.push(await timed(() => call('PATCH', '/records/deal/1', { values: { stage: stages[n % 4] } })))
      await new Promise((resolve) => setTimeout(resolve, 50))
    }
    const seconds = (performance.now() - started) / 1000
    const count = (table: string) => (state.prepare(`SELECT count(*) AS n FROM ${table}`).get() as { n: number }).n
    const memory = /VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1]
    const [deals, tasks, runs] = [count('deals'), count('tasks'), count('runs')]
    state.close()
    if (deals !== rows + 1) throw new Error(`${deals} deals of ${rows + 1}`)
    const idle: number[] = []
    for (let n = 0; n < 40; n++) idle.push(await timed(() => call('GET', '/records/deal?limit=50')))
    const sized = rows.toLocaleString('en')
    const asked = await asks(call, timed)
    return {
      plans: plans(dbFile),
      rows: [
        row(
          `${sized} deals with five rules on`,
          `taken in ${(taken / 1000).toFixed(1)} s, previewed in ${(previewed / 1000).toFixed(1)} s, written in ${seconds.toFixed(0)} s: ${Math.round(rows / seconds).toLocaleString('en')} rows/s`,
        ),
        row(
          'what came of it',
          `${runs.toLocaleString('en')} runs, ${tasks.toLocaleString('en')} tasks; memory peak of the process ${Math.round(Number(memory) / 1024)} MB`,
        ),
        row('`GET /api/v1/records/deal` meanwhile, p95 in ms', spread(page), p(page, 0.95), { most: 100 }),
        row('a page of the table, sorted by name, meanwhile', spread(table)),
        row('moving a card meanwhile, p95 in ms', spread(move), p(move, 0.95), { most: 300 }),
        row(`\`GET /api/v1/records/deal\` with ${sized} deals and nothing else to do`, spread(idle)),
        ...asked.map(({ what, times, most }) => row(`${what}, p95 in ms`, spread(times), p(times, 0.95), { most })),
      ],
    }
  } finally {
    server.kill()
    rmSync(folder, { recursive: true, force: true })
  }
}

type Call = (method: string, path: string, body?: object) => Promise<unknown>

/** What screens ask of all these deals, each with another value every time, so that no answer can be one of before. */
async function asks(
  call: Call,
  timed: (work: () => Promise<unknown>) => Promise<number>,
): Promise<readonly { readonly what: string; readonly times: readonly number[]; readonly most: number }[]> {
  const is = (field: string, op: string, params: object, not = false) => ({
    kind: 'condition',
    id: `${field}${op}`,
    field,
    op,
    not,
    params,
  })
  const group = (...items: object[]) => ({ kind: 'group', id: 'c0', mode: 'all', items })
  const conditions = (n: number) =>
    group(
      is('amount', 'moreThan', { value: 40_000 + n }),
      is('stage', 'isAnyOf', { values: ['hp-quoted', 'hp-terms'] }),
      is('name', 'contains', { value: `number ${n}` }),
      is('owner', 'isEmpty', {}, true),
      is('closeDate', 'inNext', { amount: { count: 30 + n, unit: 'days' } }, true),
    )
  const evidence = (n: number) =>
    call('POST', '/evidence', {
      document: {
        format: 2,
        name: 'Asked',
        description: '',
        object: 'deal',
        triggers: [{ id: 't1', kind: 'entersStage', params: { stage: 'hp-quoted' } }],
        conditions: conditions(n),
        steps: [],
      },
    })
  const open = {
    kind: 'linked',
    id: 'l1',
    object: 'deal',
    how: 'none',
    count: 1,
    group: {
      ...group(is('stage', 'standing', { outcome: 'open' }), is('amount', 'moreThan', { value: 90_000 })),
      id: 'g1',
    },
  }
  const companies = (n: number) =>
    call('POST', '/evidence', {
      document: {
        format: 2,
        name: 'Asked',
        description: '',
        object: 'company',
        triggers: [{ id: 't1', kind: 'created', params: {} }],
        conditions: group(open, is('name', 'contains', { value: `Firm ${n}` })),
        steps: [],
      },
    })
  const linked = (n: number) =>
    call('POST', '/evidence', {
      document: {
        format: 2,
        name: 'Asked',
        description: '',
        object: 'deal',
        triggers: [{ id: 't1', kind: 'created', params: {} }],
        conditions: group(is('amount', 'moreThan', { value: 50_000 + n }), {
          kind: 'linked',
          id: 'l2',
          object: 'company',
          how: 'main',
          count: 1,
          group: { ...group(is('name', 'contains', { value: String(n) })), id: 'g2' },
        }),
        steps: [],
      },
    })
  const ledger = (query: object) =>
    call('GET', `/record-lists/deal?${new URLSearchParams(query as Record<string, string>).toString()}`)
  const take = async (work: (n: number) => Promise<unknown>) => {
    const times: number[] = []
    await work(0)
    for (let n = 1; n <= 40; n++) times.push(await timed(() => work(n)))
    return times
  }
  return [
    { what: 'the evidence beside a rule with five conditions', times: await take(evidence), most: 200 },
    { what: 'the evidence of deals by a condition on their main company', times: await take(linked), most: 200 },
    { what: 'the evidence of companies by a question about all those deals', times: await take(companies), most: 200 },
    {
      what: 'a page of the table sorted by name',
      times: await take((n) => ledger({ sort: 'name', offset: String(n * 2000), limit: '100' })),
      most: 100,
    },
    {
      what: 'a page of the table sorted by amount, downwards',
      times: await take((n) => ledger({ sort: 'amount', down: 'true', offset: String(n * 50), limit: '100' })),
      most: 100,
    },
    {
      what: 'a page of the table filtered by an amount',
      times: await take((n) =>
        ledger({ filter: JSON.stringify(group(is('amount', 'moreThan', { value: 99_000 + n }))), limit: '100' }),
      ),
      most: 100,
    },
    {
      what: 'a page of the table filtered by five conditions',
      times: await take((n) => ledger({ filter: JSON.stringify(conditions(n)), limit: '100' })),
      most: 100,
    },
    {
      what: 'a page of the table by words in the name',
      times: await take((n) => ledger({ words: `number ${n}`, limit: '100' })),
      most: 100,
    },
    { what: 'a board with all of them on it', times: await take(() => call('GET', '/boards/hp')), most: 1000 },
  ]
}

let importId = 0
