import { planClock, turnClock, workClock } from '../server/engine/clockwork'
import { Workspace } from '../server/engine/workspace'
import { Random } from '../demo/random'
import { LEASE_MS, MIGRATIONS } from './setting'

/**
 * One of two processes at work on one database, to be killed at any moment: it changes deals, works what the clock
 * brings, turns the clock on, and hands over what leaves the house. A change is acknowledged on standard output only
 * after it was answered. With "--finish" it does what is left, far enough ahead that nothing waits any more.
 */
const [, , dbFile = '', seed = '1', finish] = process.argv
const workspace = new Workspace({ dbFile, migrationsFolder: MIGRATIONS, floodFrom: Infinity, leaseMs: LEASE_MS })
const random = new Random(Number(seed))
const STAGES = ['hp-visit', 'hp-sized', 'hp-quoted'] as const
const MINUTE_MS = 60_000
const control = {
  awaited: () => false,
  nowMs: () => performance.now(),
  pause: () => new Promise<void>((resolve) => setImmediate(resolve)),
}
const say = (line: string): void => {
  process.stdout.write(`${line}\n`)
}

workspace.drain()
planClock(workspace)
say('ready')
if (finish === '--finish') {
  await turnClock(workspace, workspace.clock.nowMs() + 120 * MINUTE_MS, control)
  while (workspace.store.outbox.pending() > 0) {
    await workspace.courier.run()
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  workspace.close()
  say('finished')
} else {
  for (let n = 0; ; n++) {
    workspace.keepUp()
    const { event } = workspace.change(
      { object: 'deal', id: random.int(1, 20) },
      { stage: random.pick(STAGES), amount: random.int(1, 90) * 1000 },
      'rosa',
    )
    if (event) say(`changed ${event.seq}`)
    if (n % 5 === 0) await turnClock(workspace, workspace.clock.nowMs() + MINUTE_MS, control)
    else await workClock(workspace, control)
    await workspace.courier.run()
  }
}
