import type { Handed } from './channel'

/** A service outside that takes something by one request. */
export interface Gateway {
  readonly address: string
  /** Sent as a bearer token; empty for none. */
  readonly token: string
}

/** Refusals that may pass. */
const MAY_PASS = [408, 425, 429]

/** Hands something to a gateway over HTTP, under its key; what it answers says whether it was taken. */
export async function handOver(gateway: Gateway, body: object, key: string, signal: AbortSignal): Promise<Handed> {
  const answer = await fetch(gateway.address, {
    method: 'POST',
    headers: {
      'content-type': 'application/json',
      'idempotency-key': key,
      ...(gateway.token === '' ? {} : { authorization: `Bearer ${gateway.token}` }),
    },
    body: JSON.stringify(body),
    redirect: 'error',
    signal,
  })
  if (answer.ok) return { is: 'taken' }
  const because = `the gateway answered ${answer.status}`
  const final = answer.status >= 400 && answer.status < 500 && !MAY_PASS.includes(answer.status)
  return { is: final ? 'never' : 'later', because }
}
