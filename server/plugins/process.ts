import { log } from '../engine/log'
import { endStreams } from '../utils/streams'

/** What keeps a server from listening: it can serve nobody, and must not work beside another one unseen. */
const CANNOT_LISTEN = ['EADDRINUSE', 'EACCES', 'EADDRNOTAVAIL']

/**
 * A server that cannot listen ends, and says why. One that is asked to end lets go of the pages that listen to it. One
 * whose output nobody reads any more goes on: each error of writing would otherwise be an error to be written, without
 * end.
 */
export default defineNitroPlugin(() => {
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, endStreams)
  for (const stream of [process.stdout, process.stderr]) stream.on('error', () => {})
  process.on('uncaughtException', (error: NodeJS.ErrnoException) => {
    if (error.syscall !== 'listen' || !CANNOT_LISTEN.includes(error.code ?? '')) return
    log.error(`It cannot listen: ${error.message}`)
    process.exit(1)
  })
})
