import { Workspace } from '../server/engine/workspace'
import { LEASE_MS, MIGRATIONS } from './setting'

/** Sends what is in the outbox by the workspace’s own mail account, to be killed at any moment. */
const [, , dbFile = ''] = process.argv
const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity, leaseMs: LEASE_MS })
process.stdout.write('ready\n')
while (workspace.store.outbox.pending() > 0) {
  await workspace.courier.run()
  // What another holds, or left behind when it was killed, is waited for.
  await new Promise((resolve) => setTimeout(resolve, 50))
}
await workspace.courier.stop()
workspace.close()
