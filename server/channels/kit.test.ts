import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { SMTPServer } from 'smtp-server'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { newSigningSecret } from '../store/connections'
import { call } from './call'
import type { Channel, Parcel } from './channel'
import { mail } from './mail'
import { text } from './text'
import { web } from './web'

/** What every channel has to do, whatever lies behind it. */

type Behaviour = 'takes' | 'busy' | 'refuses' | 'silent'
let behaviour: Behaviour = 'takes'
/** The keys under which the other side got something. */
let keys: string[] = []
let http: Server
let smtp: SMTPServer
let [httpAt, smtpAt] = [0, 0]

const key = 'run-1-s1'
const parcel: Parcel = {
  key,
  recipient: 'vera@lima.example',
  subject: 'Hello',
  body: '{"a":1}',
  atMs: 0,
  more: {
    from: { name: 'Rosa', address: 'rosa@larkmoor.example' },
    name: 'Vera',
    copy: [],
    messageId: `${key}@larkmoor.example`,
    inReplyTo: null,
    references: [],
    contactId: 1,
    optOut: false,
  },
}

beforeEach(async () => {
  ;[behaviour, keys] = ['takes', []]
  vi.stubEnv('SKY_LEVER_ALLOW_ADDRESSES', '127.0.0.1')
  http = createServer((request, response) => {
    request.resume()
    request.on('end', () => {
      if (behaviour === 'silent') return
      keys.push(String(request.headers['idempotency-key'] ?? request.headers['webhook-id']))
      response.writeHead({ takes: 202, busy: 503, refuses: 422 }[behaviour]).end()
    })
  })
  await new Promise<void>((resolve) => http.listen(0, '127.0.0.1', () => resolve()))
  httpAt = (http.address() as AddressInfo).port
  smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    closeTimeout: 50,
    onRcptTo(_to, _session, callback) {
      if (behaviour === 'silent') return
      if (behaviour === 'takes') return callback()
      callback(Object.assign(new Error('no'), { responseCode: behaviour === 'busy' ? 451 : 550 }))
    },
    onData(stream, _session, callback) {
      let raw = ''
      stream.on('data', (part: Buffer) => (raw += part.toString('utf8')))
      stream.on('end', () => {
        keys.push(/^message-id: <([^@>]+)@/im.exec(raw)?.[1] ?? '')
        callback()
      })
    },
  })
  smtp.on('error', () => undefined)
  await new Promise<void>((resolve) => smtp.listen(0, '127.0.0.1', () => resolve()))
  smtpAt = (smtp.server.address() as AddressInfo).port
})
afterEach(async () => {
  vi.unstubAllEnvs()
  http.closeAllConnections()
  await new Promise<void>((resolve) => http.close(() => resolve()))
  await new Promise<void>((resolve) => smtp.close(() => resolve()))
})

const gateway = () => ({ address: `http://127.0.0.1:${httpAt}/`, token: '' })
const nothing = () => {
  throw new Error('the simulated side was asked')
}
const CHANNELS: { readonly [name: string]: () => Channel } = {
  mail: () =>
    mail({
      account: accountOf(),
      mailbox: nothing,
      place: { base: 'https://lever.example', personOf: String, replyTo: (_id, from) => from },
    }),
  text: () => text({ gateway, mailbox: nothing }),
  call: () => call({ dialler: gateway, secret: () => 'secret', phone: nothing }),
  web: () =>
    web({
      outgoing: () => ({
        method: 'POST',
        url: `http://127.0.0.1:${httpAt}/`,
        body: '{"a":1}',
        secret: newSigningSecret(),
        headers: {},
      }),
      simulated: nothing,
    }),
}
/** One account, as long as it is not changed. */
function accountOf() {
  const account = {
    host: '127.0.0.1',
    port: smtpAt,
    security: 'none' as const,
    user: '',
    password: '',
    replyDomain: '',
    dkim: null,
  }
  return () => account
}

describe.each(Object.keys(CHANNELS))('the channel %s', (name) => {
  it('hands over under the same key with every attempt', async () => {
    const channel = CHANNELS[name]!()
    expect(channel.name).toBe(name)
    for (let i = 0; i < 2; i++)
      expect(await channel.deliver(parcel, AbortSignal.timeout(5000))).toMatchObject({ is: 'taken' })
    expect(keys).toEqual([key, key])
    channel.close?.()
  })

  it.each([
    ['busy', 'later'],
    ['refuses', 'never'],
  ] as const)('says so, with a reason, where the other side %s', async (how, is) => {
    behaviour = how
    const channel = CHANNELS[name]!()
    const handed = await channel.deliver(parcel, AbortSignal.timeout(5000))
    expect(handed.is).toBe(is)
    expect('because' in handed ? handed.because : '').not.toBe('')
    channel.close?.()
  })

  it('lets go when the time is over: silence is not taken', async () => {
    behaviour = 'silent'
    const channel = CHANNELS[name]!()
    const signal = AbortSignal.timeout(150)
    const over = new Promise<'over'>((resolve) => signal.addEventListener('abort', () => resolve('over')))
    const handed = await Promise.race([channel.deliver(parcel, signal).catch(() => ({ is: 'later' as const })), over])
    expect(handed === 'over' ? 'later' : handed.is).toBe('later')
    channel.close?.()
  })
})
