import { planClock, turnClock } from '../server/engine/clockwork'
import { Workspace } from '../server/engine/workspace'
import { MIGRATIONS } from './setting'

/** Turns the clock of a workspace to an instant, in a process of its own, to be killed at any moment. */
const [, , dbFile = '', toMs = '0'] = process.argv
const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity })
workspace.drain()
planClock(workspace)
process.stdout.write('ready\n')
const control = {
  awaited: () => false,
  nowMs: () => performance.now(),
  pause: () => new Promise<void>((resolve) => setImmediate(resolve)),
}
await turnClock(workspace, Number(toMs), control)
workspace.close()
process.stdout.write('finished\n')
