import { log } from '../engine/log'

/** What keeps a server from listening: it can serve nobody, and must not work beside another one unseen. */
const CANNOT_LISTEN = ['EADDRINUSE', 'EACCES', 'EADDRNOTAVAIL']

/**
 * A server that cannot listen ends, and says why. One whose output nobody reads any more goes on: each error of writing
 * would otherwise be an error to be written, without end.
 */
export default defineNitroPlugin(() => {
  for (const stream of [process.stdout, process.stderr]) stream.on('error', () => {})
  process.on('uncaughtException', (error: NodeJS.ErrnoException) => {
    if (error.syscall !== 'listen' || !CANNOT_LISTEN.includes(error.code ?? '')) return
    log.error(`It cannot listen: ${error.message}`)
    process.exit(1)
  })
})
