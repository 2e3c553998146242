import { request as httpRequest } from 'node:http'
import { request as httpsRequest } from 'node:https'
import type { LookupFunction } from 'node:net'
import { useAgent } from 'request-filtering-agent'
import { Webhook } from 'standardwebhooks'
import { ANSWER_MOST, type Method } from '../../../core/web/request'
import type { Channel, Handed, Parcel, WebAnswer } from '../channel'

/**
 * Web requests to services outside, signed by Standard Webhooks (id, timestamp, signature; the id is the key, the same
 * for every attempt). Private, loopback and link-local addresses are never reached, whatever name or spelling leads
 * there, unless the installation allows them (`SKY_LEVER_ALLOW_ADDRESSES`); redirects are not followed; an answer is
 * read up to a limit.
 */

export interface Outgoing {
  readonly method: Method
  readonly url: string
  readonly body: string | null
  /** `whsec_…` */
  readonly secret: string
  readonly headers: Readonly<Record<string, string>>
}

/** After so many failures in a row a host is left alone for a while. */
const FAILURES_MOST = 5
const REST_MS = 60_000
/** Nobody waits longer for an answer: others want to go out too. */
const TIME_MOST_MS = 10_000
/** Refusals that may pass. */
const MAY_PASS = [408, 425, 429]

const allowed = (): string[] =>
  (process.env.SKY_LEVER_ALLOW_ADDRESSES ?? '').split(',').flatMap((one) => (one.trim() === '' ? [] : [one.trim()]))

/** One request; never more of the answer than is kept. */
function ask(
  { method, url, body, secret, headers }: Outgoing,
  key: string,
  signal: AbortSignal,
  lookup: LookupFunction | undefined,
): Promise<WebAnswer> {
  const now = new Date()
  const signed = new Webhook(secret).sign(key, now, body ?? '')
  const secure = url.startsWith('https:')
  return new Promise((resolve, reject) => {
    const sent = (secure ? httpsRequest : httpRequest)(
      url,
      {
        method,
        // Asked once for a connection: the address that was looked at is the one that is reached.
        ...(lookup && { lookup }),
        agent: useAgent(url, { allowIPAddressList: allowed() }),
        signal: AbortSignal.any([signal, AbortSignal.timeout(TIME_MOST_MS)]),
        headers: {
          ...headers,
          'user-agent': 'sky-lever',
          accept: 'application/json',
          ...(body === null ? {} : { 'content-type': 'application/json', 'content-length': Buffer.byteLength(body) }),
          'webhook-id': key,
          'webhook-timestamp': String(Math.floor(now.getTime() / 1000)),
          'webhook-signature': signed,
        },
      },
      (answer) => {
        const parts: Buffer[] = []
        let size = 0
        const done = (text: string): void => resolve({ status: answer.statusCode ?? null, text })
        answer.on('data', (part: Buffer) => {
          size += part.length
          if (size <= ANSWER_MOST) parts.push(part)
          else {
            // Its status says what became of it; nobody reads an endless answer.
            answer.destroy()
            done('')
          }
        })
        answer.on('end', () => done(Buffer.concat(parts).toString('utf8')))
        answer.on('error', reject)
      },
    )
    sent.on('error', reject)
    sent.end(body ?? undefined)
  })
}

/** What an answer means: a redirect or a refusal is final, everything else but success may pass. */
function handedOf({ status, text }: WebAnswer): Handed {
  if (status !== null && status >= 200 && status < 300) return { is: 'taken', answer: { status, text } }
  const because = status === null ? 'there was no answer' : `the service answered ${status}`
  const final = status !== null && status >= 300 && status < 500 && !MAY_PASS.includes(status)
  return { is: final ? 'never' : 'later', because, answer: { status, text } }
}

interface Given {
  /** What is sent; `null` where its connection is nothing any more. */
  readonly outgoing: (parcel: Parcel) => Outgoing | null
  /** What the simulated receiver answers. */
  readonly simulated: (parcel: Parcel, outgoing: Outgoing) => WebAnswer
  /** Who says where a name leads; the machine’s own name service, when left out. */
  readonly lookup?: LookupFunction
}

export function web({ outgoing, simulated, lookup }: Given): Channel & { readonly name: 'web' } {
  const failures = new Map<string, { count: number; until: number }>()
  return {
    name: 'web',
    async deliver(parcel, signal) {
      const what = outgoing(parcel)
      if (!what) return { is: 'never', because: 'the connection, or its secret, is not there any more' }
      if (what.url === '' || what.url.startsWith('/')) return handedOf(simulated(parcel, what))
      if (!URL.canParse(what.url)) return { is: 'never', because: 'the address is not valid' }
      const { host } = new URL(what.url)
      const before = failures.get(host) ?? { count: 0, until: 0 }
      if (before.until > Date.now()) return { is: 'later', because: `${host} failed ${before.count} times in a row` }
      const failed = (because: string): Handed => {
        const count = before.count + 1
        failures.set(host, { count, until: count >= FAILURES_MOST ? Date.now() + REST_MS : 0 })
        return { is: 'later', because }
      }
      try {
        const handed = handedOf(await ask(what, parcel.key, signal, lookup))
        if (handed.is === 'later') return { ...failed(handed.because), ...handed }
        failures.delete(host)
        return handed
      } catch (error) {
        const because = error instanceof Error ? error.message : String(error)
        // It was never let out: trying again changes nothing.
        if (/is not allowed|private IP|meta IP/i.test(because))
          return { is: 'never', because: 'the address lies inside this network, where nothing may be asked' }
        return failed(because)
      }
    },
  }
}
