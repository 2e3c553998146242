import { continueImport, runImport } from '../server/engine/import'
import { Workspace } from '../server/engine/workspace'
import { Random } from '../demo/random'
import { LEASE_MS, MIGRATIONS } from './setting'

/**
 * A workspace at work in a process of its own, to be killed at any moment: it goes on with what the last one left,
 * brings files in, and changes deals in between as people do. A change is acknowledged on standard output only after
 * it was answered. With "--finish" it does what is left and ends by itself.
 */
const [, , dbFile = '', seed = '1', finish] = process.argv
const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity, leaseMs: LEASE_MS })
const random = new Random(Number(seed))
const STAGES = ['hp-visit', 'hp-sized', 'hp-quoted', 'hp-terms'] as const

/** Writes at once: what stands in a buffer when the process is killed was never said. */
const say = (line: string): void => {
  process.stdout.write(`${line}\n`)
}

workspace.drain()
const running = workspace.store.imports.running().map((id) => continueImport(workspace, id))
say('ready')

async function people(): Promise<void> {
  for (;;) {
    const count = workspace.store.records.count('deal')
    const { event } = workspace.change(
      { object: 'deal', id: random.int(1, count) },
      { stage: random.pick(STAGES), amount: random.int(1, 90) * 1000 },
      'rosa',
    )
    if (event) say(`changed ${event.seq}`)
    await new Promise((resolve) => setImmediate(resolve))
  }
}

const others = finish === '--finish' ? Promise.resolve() : people()
await Promise.all(running)
for (const { id, state } of [...workspace.store.imports.list()].reverse())
  if (state === 'ready') await runImport(workspace, id, true)
if (finish === '--finish') {
  // What one that was killed had on its way is taken on once its claim has run out.
  while (workspace.store.outbox.pending() > 0) {
    await workspace.courier.run()
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  workspace.close()
  say('finished')
} else {
  // Everything is in; people go on until the end comes.
  await others
}
