import { statfsSync } from 'node:fs'
import { dirname } from 'node:path'

/** With less than this nobody should be sent here: a write that finds no room is refused. */
const FREE_LEAST_MB = 64

/** Whether it can serve: the database answers, the workers run, and there is room to write. */
export default defineEventHandler((event) => {
  const found = { database: 'answers', worker: 'runs', disk: 'has room' }
  try {
    useWorkspace().store.revisions.now()
  } catch (error) {
    found.database = error instanceof Error ? error.message : String(error)
  }
  try {
    if (!useBulk().running || !useReader().running) found.worker = 'does not run yet'
  } catch (error) {
    found.worker = error instanceof Error ? error.message : String(error)
  }
  const free = freeMb()
  if (free < freeLeast()) found.disk = `has ${Math.floor(free)} MB left`
  const ok = found.database === 'answers' && found.worker === 'runs' && found.disk === 'has room'
  if (!ok) setResponseStatus(event, 503)
  return { ok, ...found }
})

function freeMb(): number {
  try {
    const { bavail, bsize } = statfsSync(dirname(useWorkspace().db.sqlite.name))
    return (bavail * bsize) / 1_000_000
  } catch {
    return Infinity
  }
}

/** Set higher where other programs need more of the disk. */
const freeLeast = (): number => Number(process.env.SKY_LEVER_FREE_LEAST_MB ?? FREE_LEAST_MB)
