import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import * as feelin from 'feelin'
import { momentAt } from '../core/engine/moment'
import { nextDue, workDue } from '../core/engine/clockwork'
import { compileFormula } from '../core/formulas/formula'
import { all, document, task } from '../core/testing/rules'
import { addDays, dateAt, instantOf } from '../core/time/dates'
import type { Rehearsal } from '../core/rehearsal/rehearse'
import { resultOf } from '../core/rehearsal/result'
import { openLarkmoor } from '../demo/fill'
import { MIGRATIONS } from '../crash/setting'
import { SetClock } from '../server/engine/clock'
import { makeDerived, workSomeDerived } from '../server/engine/derived'
import { setUpRehearsal } from '../server/engine/rehearsal'
import { rate, row, say, type Row } from './measure'
import { withServer, type Call } from './served'
import { catalogue, NOW_MS, TODAY } from '../core/testing/setting'

const PORT = '3123'
const p95 = (times: readonly number[]): number => [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? 0

const FORMULAS = [
  'amount * 0.08',
  'decimal(margin * (if kind = "hire" then 0.05 else 0.08), 2)',
  'today() - closeDate',
  'if closeDate < today() and amount > 1000 then "late" else "fine"',
  'closeDate + duration("P14D")',
  'sum([amount, margin, units]) / 3',
  'string length(name) + (if units between 1 and 5 then 1 else 0)',
]

/** Formulas compiled to closures beside the same ones interpreted. */
export function formulas(): readonly Row[] {
  const values = { name: 'Larkmoor bakery', amount: 1200, margin: 250, units: 3, closeDate: '2026-12-01', kind: 'hire' }
  const moment = momentAt(NOW_MS, catalogue.workspace)
  const subject = { values, linked: () => [] }
  const made = FORMULAS.map((text) => {
    const read = compileFormula(text, 'deal', catalogue)
    if (!read.ok) throw new Error(`${text}: ${read.problem.text}`)
    return read.formula
  })
  const context = { ...values, closeDate: feelin.date(values.closeDate), today: () => feelin.date(TODAY) }
  const compiled = rate(() => {
    for (let i = 0; i < 200; i++) for (const one of made) one.value(subject, moment)
    return 200 * made.length
  })
  const interpreted = rate(() => {
    for (const text of FORMULAS) feelin.evaluate(text, context)
    return FORMULAS.length
  })
  return [
    row(
      `${FORMULAS.length} formulas, with dates, texts and choices, interpreted by feelin`,
      `${say(interpreted)} evaluations/s`,
    ),
    row('the same compiled to closures', `${say(compiled)} evaluations/s`, compiled / interpreted, { least: 200 }),
  ]
}

/** A workspace with many deals, made without events. */
export function fill(
  dbFile: string,
  deals: number,
): { readonly workspace: ReturnType<typeof openLarkmoor>; readonly clock: SetClock } {
  const nowMs = Date.now()
  const clock = new SetClock(nowMs)
  const workspace = openLarkmoor({ dbFile, migrationsFolder: MIGRATIONS, nowMs, floodFrom: Infinity }, clock)
  const today = dateAt(nowMs, 'Europe/Lisbon')
  workspace.db.atomically(() => {
    for (let i = 0; i < deals; i++)
      workspace.store.records.insert(
        'deal',
        {
          name: `Deal ${i}`,
          stage: 'hp-sized',
          pipeline: 'hp',
          owner: 'rosa',
          amount: i % 100_000,
          margin: i % 900,
          kind: i % 2 ? 'hire' : 'purchase',
          closeDate: addDays(today, (i % 400) - 200),
        },
        nowMs,
      )
  })
  return { workspace, clock }
}

const field = (label: string, text: string, type = 'number') =>
  ({ object: 'deal', label, description: '', type: type as 'number', made: { by: 'formula', text } }) as const
const finish = (workspace: ReturnType<typeof openLarkmoor>): void => {
  while (workSomeDerived(workspace, () => false)) {
    /* Until all are worked out. */
  }
}

/** A rule that goes by a value that is another one every day. */
const PAST = document(
  {
    when: [['fieldChanges', { field: 'daysPast', how: 'past', from: null, to: 14 }]],
    then: [task('Ring {{deal.name}}', { again: true })],
  },
  'Past',
)

function past(workspace: ReturnType<typeof openLarkmoor>, days: number): Rehearsal {
  const rehearsal = setUpRehearsal(workspace, {
    rules: [{ ruleId: 1, document: PAST }],
    object: 'deal',
    ids: null,
    filter: null,
    days,
    back: false,
    script: [],
  })
  rehearsal.goOn(() => false)
  return rehearsal
}

/** The forecast of such a rule before it is switched on, as a screen waits for it. */
async function foretold(call: Call, ruleId: number, deals: number): Promise<Row> {
  const from = performance.now()
  const { id } = await call('POST', `/rules/${ruleId}/forecasts`, {})
  for (;;) {
    const { state, text, forecast } = await call('GET', `/forecasts/${String(id)}`)
    if (state === 'failed') throw new Error(String(text))
    if (state === 'done') {
      const seconds = (performance.now() - from) / 1000
      const { starts, tasks } = forecast as { readonly starts: number; readonly tasks: number }
      return row(
        `a forecast of 30 days over ${deals.toLocaleString('en')} deals with a value that is another one every day, in s`,
        `${seconds.toFixed(1)} s, ${starts.toLocaleString('en')} starts, ${tasks.toLocaleString('en')} tasks`,
        seconds,
        { most: 5 },
      )
    }
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
}

/**
 * What working out costs: the turn of the day, roll-ups, a rehearsal with values that change daily, and a formula said
 * anew.
 */
export async function derived(deals: number): Promise<readonly Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-derived-'))
  const rows: Row[] = []
  try {
    const many = fill(join(folder, 'rolled.db'), 0)
    for (const [label, what, key] of [
      ['Deals', 'count', null],
      ['Sum', 'sum', 'amount'],
      ['Latest', 'latest', 'closeDate'],
    ] as const) {
      makeDerived(
        many.workspace,
        {
          object: 'company',
          label,
          description: '',
          type: what === 'count' ? 'number' : what === 'sum' ? 'currency' : 'date',
          made: { by: 'rollUp', over: 'deal', what, field: key, order: null, down: false, where: all() },
        },
        'ines',
      )
    }
    finish(many.workspace)
    const company = many.workspace.create('company', { name: 'Large' }, [], 'ines').ref
    const refs = Array.from(
      { length: 1000 },
      (_, i) =>
        many.workspace.create(
          'deal',
          { name: `D${i}`, stage: 'hp-sized', amount: i, closeDate: '2027-01-01' },
          [company],
          'ines',
        ).ref,
    )
    const times = refs.slice(0, 200).map((ref, i) => {
      const from = performance.now()
      many.workspace.change(ref, { amount: 5000 + i }, 'ines')
      return performance.now() - from
    })
    rows.push(
      row(
        'one change of a deal of a company with 1,000 deals and three roll-ups, p95 in ms',
        `p50 ${([...times].sort((a, b) => a - b)[100] ?? 0).toFixed(1)} ms, p95 ${p95(times).toFixed(1)} ms`,
        p95(times),
        { most: 20 },
      ),
    )
    many.workspace.close()

    const daily = fill(join(folder, 'rehearsed.db'), 10_000)
    makeDerived(daily.workspace, field('Days past', 'today() - closeDate'), 'ines')
    finish(daily.workspace)
    const from = performance.now()
    const rehearsal = past(daily.workspace, 90)
    const made = resultOf(rehearsal, rehearsal.startMs).tasks.length
    rows.push(
      row(
        'a rehearsal of 90 days over 10,000 deals with a value that is another one every day',
        `${((performance.now() - from) / 1000).toFixed(1)} s, ${made.toLocaleString('en')} tasks`,
        (performance.now() - from) / 1000,
        { most: 10 },
      ),
    )
    daily.workspace.close()

    const dbFile = join(folder, 'many.db')
    const { workspace, clock } = fill(dbFile, deals)
    makeDerived(workspace, field('Days past', 'today() - closeDate'), 'ines')
    const first = performance.now()
    finish(workspace)
    rows.push(
      row(
        `working out a new field for ${deals.toLocaleString('en')} deals, in one process`,
        `${((performance.now() - first) / 1000).toFixed(1)} s`,
      ),
    )
    const ruleId = workspace.store.rules.create(PAST, 'ines', workspace.clock.nowMs())
    clock.set(instantOf(addDays(workspace.today(), 1), 0, 0, 'Europe/Lisbon'))
    const turned = performance.now()
    let longest = 0
    while ((nextDue(workspace.world) ?? Infinity) <= workspace.clock.nowMs()) {
      const piece = performance.now()
      workspace.db.atomically(() => {
        workDue(workspace.world, workspace.matcher(), 200)
        workspace.handleNew()
      })
      longest = Math.max(longest, performance.now() - piece)
    }
    rows.push(
      row(
        `the turn of the day over ${deals.toLocaleString('en')} deals, each another value`,
        `${((performance.now() - turned) / 1000).toFixed(1)} s, ${workspace.store.events.last().toLocaleString('en')} events, the longest commit ${longest.toFixed(0)} ms`,
      ),
    )
    const id = workspace.catalogue().field('deal', 'daysPast')?.id ?? 0
    workspace.close()
    rows.push(...(await served(dbFile, id, ruleId, deals)))
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
  return rows
}

/** Through the built server: a formula is said anew, and pages are read until it is worked out for all. */
async function served(dbFile: string, id: number, ruleId: number, deals: number): Promise<readonly Row[]> {
  return await withServer(PORT, dbFile, async (call) => {
    const forecast = await foretold(call, ruleId, deals)
    const [records, record] = [[] as number[], [] as number[]]
    const from = performance.now()
    await call('PUT', `/derived-fields/${id}`, { made: { by: 'formula', text: 'closeDate - today()' } })
    for (let open = true; open && performance.now() - from < 300_000;) {
      for (const [times, path] of [
        [records, '/records/deal?limit=50'],
        [record, '/records/deal/1'],
      ] as const) {
        const began = performance.now()
        await call('GET', path)
        times.push(performance.now() - began)
      }
      open = ((await call('GET', '/derived-fields')) as { jobs: unknown[] }).jobs.length > 0
      await new Promise((resolve) => setTimeout(resolve, 20))
    }
    const seconds = (performance.now() - from) / 1000
    return [
      forecast,
      row(
        `a formula said anew for ${deals.toLocaleString('en')} deals, through the built server`,
        `${seconds.toFixed(1)} s`,
      ),
      row('`GET /api/v1/records/deal` during that, p95 in ms', `p95 ${p95(records).toFixed(0)} ms`, p95(records), {
        most: 100,
      }),
      row('one deal during that, p95 in ms', `p95 ${p95(record).toFixed(0)} ms`, p95(record), { most: 100 }),
    ]
  })
}
