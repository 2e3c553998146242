import { mailReceiver } from '../engine/mail-in'
import { log } from '../engine/log'

/** Receives answers where a port is set: `SKY_LEVER_MAIL_PORT`, on `SKY_LEVER_MAIL_HOST` or on this computer only. */
export default defineNitroPlugin((nitro) => {
  const port = Number(process.env.SKY_LEVER_MAIL_PORT ?? 0)
  if (port === 0) return
  const trouble = (error: unknown): void =>
    log.error(error instanceof Error ? (error.stack ?? error.message) : String(error))
  const server = mailReceiver(useWorkspace(), trouble)
  server.listen(port, process.env.SKY_LEVER_MAIL_HOST ?? '127.0.0.1')
  nitro.hooks.hook('close', () => new Promise<void>((resolve) => server.close(() => resolve())))
})
