import { appendFileSync } from 'node:fs'
import { Courier } from '../server/engine/courier'
import { Workspace } from '../server/engine/workspace'
import { LEASE_MS, MIGRATIONS } from './setting'

/**
 * Hands over what is in the outbox, in a process of its own, to be killed at any moment. The receiver is a file beside
 * the database: what was handed over stays known there, whatever the database says. Ends when nothing is pending.
 */
const [, , dbFile = '', receiver = ''] = process.argv
const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity })
const courier = new Courier({
  db: workspace.db,
  outbox: workspace.store.outbox,
  channels: {
    mail: {
      name: 'mail',
      deliver({ key }) {
        appendFileSync(receiver, `${process.pid} ${key}\n`)
        return Promise.resolve({ is: 'taken' })
      },
    },
    text: { name: 'text', deliver: () => Promise.resolve({ is: 'never', because: 'no phones here' }) },
    web: { name: 'web', deliver: () => Promise.resolve({ is: 'never', because: 'no web here' }) },
    call: { name: 'call', deliver: () => Promise.resolve({ is: 'never', because: 'no phones here' }) },
  },
  nowMs: () => workspace.clock.nowMs(),
  leaseMs: LEASE_MS,
})
process.stdout.write('ready\n')
while (workspace.store.outbox.pending() > 0) {
  await courier.run()
  // What another holds, or left behind when it was killed, is waited for.
  await new Promise((resolve) => setTimeout(resolve, 50))
}
workspace.close()
