import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { guessMapping } from '../core/formats/csv/guess'
import { readCsv } from '../core/formats/csv/read'
import { all, document, enters, task } from '../core/testing/rules'
import { MIGRATIONS } from '../crash/setting'
import { openLarkmoor } from '../demo/fill'
import { SetClock } from '../server/engine/clock'
import { makeDerived } from '../server/engine/derived'
import { runImport } from '../server/engine/import'
import { row, type Row } from './measure'
import { withServer } from './served'

const PORT = '3124'
const MOST_MS = 100

/** The list of rules through the built server, with many rules and the runs of a busy month. */
export async function ruleList(rules: number, runs: number): Promise<readonly Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-rules-'))
  try {
    const dbFile = join(folder, 'rules.db')
    const nowMs = Date.now()
    const given = { dbFile, migrationsFolder: MIGRATIONS, nowMs, floodFrom: Infinity }
    const workspace = openLarkmoor(given, new SetClock(nowMs))
    const { store, db } = workspace
    const ref = workspace.create('deal', { name: 'Dock', stage: 'hp-sized', owner: 'rosa' }, [], 'ines').ref
    db.atomically(() => {
      const made = Array.from({ length: rules }, (_, i) => {
        const rule = document({ when: [enters('hp-quoted')], then: [task(`Ring ${i}`)] }, `Rule ${i}`)
        const id = store.rules.create(rule, 'ines', nowMs)
        const version = i % 4 === 0 ? store.rules.publish(id, rule, 'ines', nowMs) : null
        if (version) store.rules.setState(id, 'on', 'ines', nowMs)
        return version ? [{ id, version: store.rules.get(id)?.version?.id ?? 0 }] : []
      }).flat()
      const insert = db.sqlite.prepare(`INSERT INTO runs
        (rule_id, version_id, object, record_id, occurrence, event_seq, chain_id, depth, state, because, seen, started_at)
        VALUES (?, ?, 'deal', ?, ?, 1, 'c', 0, 'done', 'it entered Quoted', '[]', ?)`)
      for (let i = 0; i < runs; i++) {
        const one = made[i % made.length]
        insert.run(one?.id, one?.version, ref.id, `bench:${i}`, nowMs - (i % 40) * 86_400_000)
      }
    })
    workspace.rulesChanged()
    workspace.close()
    const times = await withServer(PORT, dbFile, async (call) => {
      const found: number[] = []
      for (let i = 0; i < 60; i++) {
        const from = performance.now()
        await call('GET', '/rules')
        found.push(performance.now() - from)
      }
      return found.slice(10).sort((a, b) => a - b)
    })
    const [p50, p95] = [times[25] ?? 0, times[47] ?? 0]
    return [
      row(
        `\`GET /api/v1/rules\` with ${rules.toLocaleString('en')} rules and ${runs.toLocaleString('en')} runs, p95 in ms`,
        `p50 ${p50.toFixed(0)} ms, p95 ${p95.toFixed(0)} ms`,
        p95,
        { most: MOST_MS },
      ),
    ]
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** A file of deals to few companies, which add up what they have: time by thirds, the last beside the first. */
export async function rolledUp(deals: number, companies: number): Promise<readonly Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-rolled-'))
  try {
    const nowMs = Date.now()
    const given = { dbFile: join(folder, 'r.db'), migrationsFolder: MIGRATIONS, nowMs, floodFrom: Infinity }
    const workspace = openLarkmoor(given, new SetClock(nowMs))
    for (const [label, what, field] of [
      ['Deals', 'count', null],
      ['Total', 'sum', 'amount'],
    ] as const)
      makeDerived(
        workspace,
        {
          object: 'company',
          label,
          description: '',
          type: what === 'count' ? 'number' : 'currency',
          made: { by: 'rollUp', over: 'deal', what, field, order: null, down: false, where: all() },
        },
        'ines',
      )
    const lines = Array.from({ length: deals }, (_, i) => `B-${i},Deal ${i},Firm ${i % companies},Sized,rosa,${i}`)
    const content = ['Reference,Name,Company,Stage,Owner,Amount', ...lines].join('\n')
    const mapping = guessMapping(readCsv(content), workspace.catalogue())
    const id = workspace.store.imports.create({ fileName: 'b.csv', content, mapping, personId: 'ines' }, nowMs)
    const marks: number[] = []
    workspace.live.listen(({ message }) => {
      if (message.about === 'imports' && message.progress && message.progress.row >= ((marks.length + 1) * deals) / 3)
        marks.push(performance.now())
    })
    const from = performance.now()
    await runImport(workspace, id, false)
    const took = performance.now() - from
    const third = (marks[1] ?? 0) - (marks[0] ?? 0)
    workspace.close()
    return [
      row(
        `${deals.toLocaleString('en')} deals to ${companies} companies with two roll-ups: the last third beside the second`,
        `${((deals / took) * 1000).toFixed(0)} rows/s`,
        (took - (marks[1] ?? 0) + from) / third,
        { most: 1.5 },
      ),
    ]
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
