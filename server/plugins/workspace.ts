import { resolve } from 'node:path'
import { TurnTaker } from '../engine/turns'
import { EmptyWorkspaceError, Workspace } from '../engine/workspace'
import { readSecret, setSecret } from '../auth/session'
import { setBulk, setWorkspace } from '../utils/workspace'
import { Bulk } from '../worker/bulk'

const OUTBOX_EVERY_MS = 10_000

/** Opens the workspace at start, goes on with what a stop cut short, and closes it at the end. */
export default defineNitroPlugin((nitro) => {
  const home = process.env.SKY_LEVER_HOME ?? process.cwd()
  const dbFile = resolve(home, process.env.SKY_LEVER_DB ?? '.data/sky-lever.db')
  setSecret(readSecret(dbFile))
  const migrationsFolder = resolve(home, 'server/db/migrations')
  const turns = new TurnTaker()
  const workspace = new Workspace({ dbFile, migrationsFolder, turns })
  setWorkspace(workspace)
  try {
    workspace.drain()
  } catch (error) {
    if (!(error instanceof EmptyWorkspaceError)) throw error
  }
  // The worker goes on by itself with imports that a stop cut short. It is a bundle of its own, beside the server's.
  const bulk = new Bulk(resolve(home, import.meta.dev ? '.worker/engine-worker.mjs' : '.output/server/engine-worker.mjs'), { dbFile, migrationsFolder, turns: turns.buffer }, {
    live: (message) => workspace.live.tell(message), trouble: (text) => console.error(text),
  })
  setBulk(bulk)
  const timer = setInterval(() => workspace.deliverDue(), OUTBOX_EVERY_MS)
  nitro.hooks.hook('close', async () => {
    clearInterval(timer)
    setBulk(null)
    await bulk.close()
    setWorkspace(null)
    workspace.close()
  })
})
