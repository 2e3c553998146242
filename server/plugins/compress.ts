import type { Socket } from 'node:net'
import { compressed, LEAST_BYTES } from '../utils/compress'

/** Sends answers compressed, in what the client takes: pages and lists are mostly names of the same things. */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('beforeResponse', async (event, response) => {
    // A page that is made here asks for its data here, with its client's headers: nothing goes over a wire.
    if (!(event.node.req.socket as Socket & { readonly server?: unknown }).server) return
    const { body } = response
    const text = typeof body === 'string' ? body : isPlain(body) ? JSON.stringify(body) : null
    if (text === null || text.length < LEAST_BYTES || getResponseHeader(event, 'content-encoding')) return
    appendResponseHeader(event, 'vary', 'accept-encoding')
    const made = await compressed(text, getRequestHeader(event, 'accept-encoding') ?? '')
    if (!made) return
    if (!getResponseHeader(event, 'content-type'))
      setResponseHeader(event, 'content-type', typeof body === 'string' ? 'text/html' : 'application/json')
    setResponseHeader(event, 'content-encoding', made.encoding)
    removeResponseHeader(event, 'content-length')
    response.body = made.body
  })
})

/** What is sent as JSON; streams, buffers and what answers by itself are left alone. */
function isPlain(body: unknown): boolean {
  if (Array.isArray(body)) return true
  if (typeof body !== 'object' || body === null) return false
  const kind: unknown = Object.getPrototypeOf(body)
  return kind === Object.prototype || kind === null
}
