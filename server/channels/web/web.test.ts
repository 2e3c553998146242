import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import type { AddressInfo, LookupFunction } from 'node:net'
import { Webhook } from 'standardwebhooks'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { newSigningSecret } from '../../store/connections'
import { web, type Outgoing } from '.'

let server: Server
let base = ''
let answer: (request: IncomingMessage, response: ServerResponse, body: string) => void
beforeEach(async () => {
  server = createServer((request, response) => {
    const parts: Buffer[] = []
    request.on('data', (part: Buffer) => parts.push(part))
    request.on('end', () => answer(request, response, Buffer.concat(parts).toString('utf8')))
  })
  await new Promise<void>((resolve) => server.listen(0, '0.0.0.0', () => resolve()))
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  vi.stubEnv('SKY_LEVER_ALLOW_ADDRESSES', '127.0.0.1')
})
afterEach(async () => {
  vi.unstubAllEnvs()
  server.closeAllConnections()
  await new Promise<void>((resolve) => server.close(() => resolve()))
})

const secret = newSigningSecret()
function channel(url: string, more: Partial<Outgoing> = {}, lookup?: LookupFunction) {
  const outgoing = { method: 'POST' as const, url, body: '{"a":1}', secret, headers: { 'x-key': 'k' }, ...more }
  const made = web({
    outgoing: () => outgoing,
    simulated: () => ({ status: 200, text: '' }),
    ...(lookup && { lookup }),
  })
  const parcel = { key: 'web-1-s1', recipient: '', subject: '', body: '', more: null, atMs: 0 }
  return (ms = 5000) => made.deliver(parcel, AbortSignal.timeout(ms))
}

describe('a web request', () => {
  it('is signed as the standard’s own library verifies it, under its key, and brings the answer', async () => {
    let verified: unknown
    answer = (request, response, body) => {
      verified = new Webhook(secret).verify(body, request.headers as Record<string, string>)
      expect([request.method, request.url, request.headers['x-key']]).toEqual(['POST', '/orders', 'k'])
      expect(request.headers['webhook-id']).toBe('web-1-s1')
      response.end('{"number":7}')
    }
    expect(await channel(`${base}/orders`)()).toEqual({ is: 'taken', answer: { status: 200, text: '{"number":7}' } })
    expect(verified).toEqual({ a: 1 })
  })

  it.each([
    [500, 'later'],
    [429, 'later'],
    [404, 'never'],
    [302, 'never'],
  ])('answered by %i is asked again or given up: %s', async (status, is) => {
    const seen: string[] = []
    answer = (request, response) => {
      seen.push(request.url ?? '')
      response.writeHead(status, { location: `${base}/elsewhere` }).end('no')
    }
    expect(await channel(`${base}/orders`)()).toMatchObject({ is, answer: { status, text: 'no' } })
    expect(seen).toEqual(['/orders'])
  })

  it('to one that answers without end, or never, hurts nobody', async () => {
    answer = (_, response) => {
      const part = Buffer.alloc(65_536, 'x')
      const more = (): void => {
        while (response.write(part));
        response.once('drain', more)
      }
      more()
    }
    expect(await channel(base)()).toEqual({ is: 'taken', answer: { status: 200, text: '' } })
    answer = () => undefined
    expect(await channel(base)(150)).toMatchObject({ is: 'later' })
  })

  it('to a host that fails again and again leaves it alone for a while', async () => {
    let count = 0
    answer = (_, response) => {
      count++
      response.writeHead(503).end()
    }
    const deliver = channel(base)
    for (let i = 0; i < 9; i++) expect(await deliver()).toMatchObject({ is: 'later' })
    expect(count).toBe(5)
  })

  it.each([
    'http://127.0.0.1/',
    'http://2130706433/',
    'http://0x7f000001/',
    'http://0177.0.0.1/',
    'http://[::1]/',
    'http://[::ffff:127.0.0.1]/',
    'http://[::ffff:7f00:1]/',
    'http://localhost/',
    'http://0.0.0.0/',
    'http://10.1.2.3/',
    'http://192.168.0.1/',
    'http://169.254.169.254/latest/meta-data',
    'http://[fe80::1]/',
    'http://[fd00::1]/',
  ])('never reaches %s', async (url) => {
    vi.stubEnv('SKY_LEVER_ALLOW_ADDRESSES', '')
    expect(await channel(url)()).toEqual({
      is: 'never',
      because: 'the address lies inside this network, where nothing may be asked',
    })
  })

  it('by a name that leads inside once it was let out reaches nothing there', async () => {
    let count = 0
    answer = (_, response) => {
      count++
      response.end('{}')
    }
    let asked = 0
    // The first answer of the name service may be reached, as one outside would be; every one behind it lies inside.
    const turning: LookupFunction = (_name, options, done) => {
      const address = ++asked === 1 ? '127.0.0.1' : '127.0.0.2'
      if (options.all) done(null, [{ address, family: 4 }])
      else done(null, address, 4)
    }
    const { port } = server.address() as AddressInfo
    const deliver = channel(`http://orders.example:${port}/`, {}, turning)
    expect(await deliver()).toMatchObject({ is: 'taken' })
    expect(asked).toBe(1)
    for (let i = 0; i < 3; i++)
      expect(await deliver()).toEqual({
        is: 'never',
        because: 'the address lies inside this network, where nothing may be asked',
      })
    expect([count, asked]).toEqual([1, 4])
  })
})
