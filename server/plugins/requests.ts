import { log } from '../engine/log'
import { requestSeconds } from '../utils/metrics'
import type { Server } from 'node:http'
import type { Socket } from 'node:net'
import type { H3Event } from 'h3'

/**
 * Longer than clients and proxies keep a connection that is idle: one that the server closes just as it is used again
 * breaks a request.
 */
const KEEP_ALIVE_MS = 75_000

const started = new WeakMap<H3Event, number>()

/** The pattern of the route, so that records and their ids do not make a series each; pages are one. */
const routeOf = (event: H3Event): string => {
  const { path = '' } = (event.context as { matchedRoute?: { path?: string } }).matchedRoute ?? {}
  return path.startsWith('/api/') ? path : 'page'
}

/** One line and one measurement a request. Files of the application itself are not worth either. */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('request', (event) => {
    started.set(event, performance.now())
    const { server } = event.node.req.socket as Socket & { readonly server?: Server }
    if (server && server.keepAliveTimeout < KEEP_ALIVE_MS) server.keepAliveTimeout = KEEP_ALIVE_MS
  })
  nitro.hooks.hook('afterResponse', (event) => {
    const from = started.get(event)
    if (from === undefined || event.path.startsWith('/_nuxt/')) return
    const [route, status, ms] = [routeOf(event), getResponseStatus(event), performance.now() - from]
    requestSeconds.observe({ method: event.method, route, status: String(status) }, ms / 1000)
    // The pattern and not the path: people stand in paths by name, and so does whatever somebody made up.
    log.info({ method: event.method, route, status, ms: Math.round(ms * 10) / 10 }, 'request')
  })
})
