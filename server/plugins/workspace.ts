import { resolve } from 'node:path'
import { continueImport } from '../engine/import'
import { EmptyWorkspaceError, Workspace } from '../engine/workspace'
import { readSecret, setSecret } from '../auth/session'
import { setWorkspace } from '../utils/workspace'

const OUTBOX_EVERY_MS = 10_000

/** Opens the workspace at start, goes on with what a stop cut short, and closes it at the end. */
export default defineNitroPlugin((nitro) => {
  const home = process.env.SKY_LEVER_HOME ?? process.cwd()
  const dbFile = resolve(home, process.env.SKY_LEVER_DB ?? '.data/sky-lever.db')
  setSecret(readSecret(dbFile))
  const workspace = new Workspace({
    dbFile,
    migrationsFolder: resolve(home, 'server/db/migrations'),
  })
  setWorkspace(workspace)
  try {
    workspace.drain()
    for (const id of workspace.store.imports.running()) void continueImport(workspace, id)
  } catch (error) {
    if (!(error instanceof EmptyWorkspaceError)) throw error
  }
  const timer = setInterval(() => workspace.deliverDue(), OUTBOX_EVERY_MS)
  nitro.hooks.hook('close', () => {
    clearInterval(timer)
    setWorkspace(null)
    workspace.close()
  })
})
