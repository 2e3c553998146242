import { existsSync } from 'node:fs'
import { runImport } from '../server/engine/import'
import { Workspace } from '../server/engine/workspace'
import { MIGRATIONS } from './setting'

/** Reads the catalogue again and again, or takes a file in, in a process of its own, until so many fields are there. */
const [, , dbFile = '', what = 'read', fields = '0'] = process.argv
const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity })
// A breath between two readings: three processes that never rest would keep the maker of fields off the machine.
const pause = () => new Promise<void>((resolve) => setTimeout(resolve, 20))
const parent = process.ppid
process.stdout.write('ready\n')
if (what === 'import')
  await runImport(workspace, 1, true, { awaited: () => false, nowMs: () => performance.now(), pause })
const count = () =>
  workspace
    .catalogue()
    .fields('deal')
    .filter((field) => field.label.startsWith('Probe ')).length
// A test that failed takes its folder away, or is gone itself: nobody waits for the fields any more.
while (count() < Number(fields) && existsSync(dbFile) && process.ppid === parent) {
  workspace.catalogueChanged()
  for (const { id } of workspace.catalogue().fields('deal').slice(0, 3))
    workspace.store.records.read({ object: 'deal', id })
  await pause()
}
workspace.close()
