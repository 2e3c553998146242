import { guessMapping } from '../core/formats/csv/guess'
import { readCsv } from '../core/formats/csv/read'
import { document, enters, set, task } from '../core/testing/rules'
import type { RuleDocument } from '../core/rules/document'
import { openLarkmoor } from '../demo/fill'
import { SetClock } from '../server/engine/clock'

export const MIGRATIONS = 'server/db/migrations'

/** How long a claim holds where processes are killed: short, so that nobody waits long for what they left behind. */
export const LEASE_MS = 3_000

export const RULES: readonly RuleDocument[] = [
  document(
    { when: [enters('hp-quoted')], then: [set('units', 3), task('Ring {{deal.name}}', { again: true, email: true })] },
    'Quoted',
  ),
  document({ when: [['created', {}]], then: [task('Say hello', { again: true })] }, 'New'),
  document(
    {
      when: [['fieldChanges', { field: 'amount', how: 'up', from: null, to: null }]],
      then: [set('notes', 'went up'), task('Ask why', { again: true, email: true })],
    },
    'Up',
  ),
  // Started by what another rule wrote, so that chains are cut short too.
  document(
    {
      when: [['fieldChanges', { field: 'notes', how: 'to', from: null, to: 'went up' }]],
      then: [set('notes', 'seen')],
    },
    'Seen',
  ),
]

/** A workspace with rules on, some deals, and files that wait to be brought in. */
export function prepare(dbFile: string, files: number, rows: number): void {
  const workspace = openLarkmoor({ dbFile, migrationsFolder: MIGRATIONS, nowMs: Date.now() }, new SetClock(Date.now()))
  const { rules, imports } = workspace.store
  for (const rule of RULES) {
    const id = rules.create(rule, 'ines', Date.now())
    rules.publish(id, rule, 'ines', Date.now())
    rules.setState(id, 'on', 'ines', Date.now())
  }
  workspace.rulesChanged()
  for (let i = 0; i < 20; i++)
    workspace.create(
      'deal',
      { name: `Deal ${i}`, stage: 'hp-sized', owner: 'rosa', amount: 10_000, reference: `OLD-${i}` },
      [],
      'ines',
    )
  for (let file = 0; file < files; file++) {
    const lines = Array.from(
      { length: rows },
      (_, row) =>
        `F${file}-${row},Imported ${file} ${row},Firm ${row % 40},${row % 3 === 0 ? 'Quoted' : 'Sized'},Rosa Amara,${1000 + row}`,
    )
    const content = `Reference,Name,Company,Stage,Owner,Amount\n${lines.join('\n')}\n`
    imports.create(
      {
        fileName: `f${file}.csv`,
        content,
        mapping: guessMapping(readCsv(content), workspace.catalogue()),
        personId: 'ines',
      },
      Date.now(),
    )
  }
  workspace.close()
}
