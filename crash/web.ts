import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { Webhook } from 'standardwebhooks'
import { addConnection } from '../server/engine/connections'
import { outgoingMain, type OtherSide } from './outgoing'

/** A service on this computer; requests are known by their id, and each has to be signed. */
export async function webSide(): Promise<OtherSide> {
  const taken: string[] = []
  let secret = ''
  const server = createServer((request, response) => {
    let body = ''
    request.on('data', (piece: Buffer) => (body += piece.toString('utf8')))
    request.on('end', () => {
      new Webhook(secret).verify(body, request.headers as Record<string, string>)
      taken.push(String(request.headers['webhook-id']))
      response.end('{}')
    })
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', () => resolve()))
  const { port } = server.address() as AddressInfo
  // For the processes that are started from here as well.
  process.env.SKY_LEVER_ALLOW_ADDRESSES = '127.0.0.1'
  return {
    taken,
    close() {
      server.closeAllConnections()
      return new Promise<void>((resolve) => server.close(() => resolve()))
    },
    fill(workspace, count) {
      const made = addConnection(workspace, 'Service', `http://127.0.0.1:${port}`, {})
      secret = made.secret
      const { ref } = workspace.create('contact', { name: 'Vera', email: 'v@x.example', owner: 'rosa' }, [], 'ines')
      const of = { ref, ruleId: 0, runId: 0, stepId: 's1' }
      const keys = Array.from({ length: count }, (_, n) => `web-many-${n}`)
      for (const key of keys) {
        workspace.store.connections.addRequest(
          { connection: made.id, method: 'POST', path: '/', body: '{"a":1}' },
          of,
          key,
          workspace.clock.nowMs(),
        )
        workspace.store.outbox.add(
          { key, channel: 'web', recipient: 'Service', subject: 'POST /', body: '', runId: null, more: null },
          workspace.clock.nowMs(),
        )
      }
      return new Set(keys)
    },
  }
}

export const main = (args: readonly string[]): Promise<void> => outgoingMain(webSide, args)
