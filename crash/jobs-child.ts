import { workJob } from '../server/engine/rule-jobs'
import { Workspace } from '../server/engine/workspace'
import { MIGRATIONS } from './setting'

/** Goes on with the work of rules over many records, in a process of its own, to be killed at any moment. */
const [, , dbFile = ''] = process.argv
const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity })
workspace.drain()
process.stdout.write('ready\n')
const control = {
  awaited: () => false,
  nowMs: () => performance.now(),
  pause: () => new Promise<void>((resolve) => setImmediate(resolve)),
}
for (const id of workspace.store.ruleJobs.running()) await workJob(workspace, id, control)
workspace.close()
process.stdout.write('finished\n')
