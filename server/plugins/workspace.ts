import { resolve } from 'node:path'
import { addMissingFields } from '../engine/set-up'
import { TurnTaker } from '../engine/turns'
import { EmptyWorkspaceError, Workspace } from '../engine/workspace'
import { SET_UP_CODE } from '../auth/set-up-code'
import { log, logRuns } from '../engine/log'
import { countRuns } from '../utils/metrics'
import { heardOfRehearsal } from '../utils/rehearsals'
import { setThreads, setWorkspace } from '../utils/workspace'
import { Thread, type AskLimit } from '../worker/thread'

const OUTBOX_EVERY_MS = 10_000
const LOOK_EVERY_MS = 1000
/** Larger than any question of a screen needs over a million records; what takes longer was never meant. */
const READER_LIMIT: AskLimit = { ms: Number(process.env.SKY_LEVER_READER_MS ?? 60_000), waiting: 200 }

/** Opens the workspace at start, goes on with what a stop cut short, and closes it at the end. */
export default defineNitroPlugin((nitro) => {
  const home = process.env.SKY_LEVER_HOME ?? process.cwd()
  const dbFile = resolve(home, process.env.SKY_LEVER_DB ?? '.data/sky-lever.db')
  const migrationsFolder = resolve(home, 'server/db/migrations')
  const turns = new TurnTaker()
  const workspace = new Workspace({
    dbFile,
    migrationsFolder,
    turns,
    trouble: (error) => log.error(error instanceof Error ? (error.stack ?? error.message) : String(error)),
    ran(reports) {
      logRuns(reports)
      for (const { state } of reports) countRuns({ [state]: 1 })
    },
  })
  setWorkspace(workspace)
  try {
    addMissingFields(workspace)
    workspace.drain()
  } catch (error) {
    if (!(error instanceof EmptyWorkspaceError)) throw error
    // On the terminal, not in the log: who reads logs is not to set it up.
    process.stdout.write(`This workspace is empty. Set-up code: ${SET_UP_CODE}\n`)
  }
  // The worker goes on by itself with imports that a stop cut short. It is a bundle of its own, beside the server's.
  const start = (role: 'bulk' | 'reader' | 'rehearsal', limit: AskLimit | null = null) =>
    new Thread(
      resolve(home, import.meta.dev ? '.worker/engine-worker.mjs' : '.output/server/engine-worker.mjs'),
      { role, dbFile, migrationsFolder, turns: turns.buffer },
      {
        live(message) {
          if (message.about === 'clock') workspace.keepUp()
          workspace.live.tell(message)
        },
        ran: countRuns,
        ended: () => turns.free(),
        trouble: (text) => log.error(text),
        rehearsal: heardOfRehearsal,
      },
      limit,
    )
  const threads = { bulk: start('bulk'), reader: start('reader', READER_LIMIT), rehearsal: start('rehearsal') }
  setThreads(threads)
  const timer = setInterval(() => workspace.courier.wake(), OUTBOX_EVERY_MS)
  // Another process on the same file may have changed something while nobody asks this one: its screens hear of it.
  const looking = setInterval(() => {
    try {
      workspace.keepUp()
    } catch (error) {
      // The file may be busy for a moment; the next look comes.
      log.warn(error instanceof Error ? error.message : String(error))
    }
  }, LOOK_EVERY_MS)
  nitro.hooks.hook('close', async () => {
    clearInterval(timer)
    clearInterval(looking)
    setThreads(null)
    await Promise.all([threads.bulk.close(), threads.reader.close(), threads.rehearsal.close()])
    await workspace.courier.stop()
    setWorkspace(null)
    workspace.close()
  })
})
