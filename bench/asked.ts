import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { all, condition, document, enters, task } from '../core/testing/rules'
import { fill } from './derived'
import { row, type Row } from './measure'
import { withServer } from './served'

const PORT = '3125'
const MOST_MS = 100
const TRIES = 25

/** What screens ask while somebody writes a rule or looks for a record, through the built server. */
export async function asked(deals: number): Promise<readonly Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-asked-'))
  try {
    const dbFile = join(folder, 'asked.db')
    fill(dbFile, deals).workspace.close()
    const large = condition('amount', 'moreThan', { value: 90_000 })
    const stands = condition('stage', 'is', { value: 'hp-sized' })
    const rule = document({ when: [enters('hp-sized')], onlyIf: all(stands, large), then: [task('Ring')] }, 'Large')
    const five = document(
      {
        when: [enters('hp-quoted')],
        onlyIf: all(
          condition('stage', 'isAnyOf', { values: ['hp-sized', 'hp-quoted'] }),
          condition('amount', 'moreThan', { value: 1000 }),
          condition('name', 'contains', { value: 'deal 7' }),
          condition('owner', 'isEmpty', {}, true),
          condition('closeDate', 'inNext', { amount: { count: 30, unit: 'days' } }, true),
        ),
        then: [],
      },
      'Five',
    )
    const asks: readonly (readonly [string, string, string, object?])[] = [
      ['evidence of a rule with two conditions', 'POST', '/evidence', { document: rule }],
      ['evidence of a rule with five conditions', 'POST', '/evidence', { document: five }],
      ['what stands there for it', 'POST', '/evidence/standing', { document: rule }],
      ['a search over everything', 'GET', '/find?words=deal%20777'],
      ['a picker of records', 'GET', '/records/deal?words=777&limit=8'],
      ['a list by name', 'GET', '/record-lists/deal?sort=name'],
      ['a list by amount', 'GET', '/record-lists/deal?sort=amount&down=true'],
      ['a list by amount, far down', 'GET', '/record-lists/deal?sort=amount&down=true&offset=50000'],
    ]
    return await withServer(PORT, dbFile, async (call) => {
      const rows: Row[] = []
      for (const [what, method, path, body] of asks) {
        const times: number[] = []
        for (let i = 0; i < TRIES; i++) {
          const from = performance.now()
          await call(method, path, body)
          times.push(performance.now() - from)
        }
        const [first = 0, ...rest] = times
        rest.sort((a, b) => a - b)
        const p95 = rest[Math.floor(rest.length * 0.95)] ?? 0
        const p50 = rest[Math.floor(rest.length / 2)] ?? 0
        rows.push(
          row(
            `${what}, ${deals.toLocaleString('en')} deals, p95 in ms`,
            `first ${first.toFixed(0)} ms, p50 ${p50.toFixed(0)} ms, p95 ${p95.toFixed(0)} ms`,
            p95,
            { most: MOST_MS },
          ),
        )
      }
      return rows
    })
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
