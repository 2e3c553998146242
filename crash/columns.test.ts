import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { bundle } from '../scripts/bundle.mjs'
import { makeField } from '../server/engine/fields'
import { Workspace } from '../server/engine/workspace'
import { runChild } from './kill'
import { MIGRATIONS, prepare } from './setting'

const CHILD = '.worker/crash-columns-child.mjs'
const FIELDS = 60

it('fields are made while others read the catalogue and a file comes in', { timeout: 600_000 }, async () => {
  const folder = mkdtempSync(join(tmpdir(), 'sky-lever-columns-'))
  const dbFile = join(folder, 'columns.db')
  try {
    await bundle('crash/columns-child.ts', CHILD)
    prepare(dbFile, 1, 60)
    const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity })
    const beside = Promise.all(
      ['read', 'read', 'import'].map((what) => runChild(CHILD, [dbFile, what, String(FIELDS)], null)),
    )
    const settled = beside.then(
      () => 'fine',
      (error: unknown) => String(error),
    )
    for (let n = 1; n <= FIELDS; n++) {
      const type = n % 3 === 0 ? 'email' : n % 3 === 1 ? 'text' : 'date'
      makeField(workspace, { object: 'deal', label: `Probe ${n}`, type, description: '', choices: [] })
      await new Promise((resolve) => setImmediate(resolve))
    }
    expect(await settled).toBe('fine')
    const fields = workspace
      .catalogue()
      .fields('deal')
      .filter((field) => field.label.startsWith('Probe '))
    expect(fields).toHaveLength(FIELDS)
    const columns = (workspace.db.sqlite.pragma('table_info(deals)') as { name: string }[]).map((column) => column.name)
    expect(fields.filter((field) => !columns.includes(`c_${field.id}`))).toEqual([])
    workspace.close()
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
})
