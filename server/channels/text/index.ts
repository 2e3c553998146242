import { z } from 'zod'
import type { Mailbox } from '../../stand-ins/mailbox'
import type { Channel, Handed } from '../channel'

/**
 * Text messages, by a gateway over HTTP, or to the simulated phones that ship with the app. A gateway gets
 * `POST <address>` with `{ to, from, text, key }` as JSON and an `Idempotency-Key`; any answer from 200 to 299 takes
 * the message, one from 400 to 499 but for 408, 425 and 429 refuses it for good.
 */

export const zTextGateway = z.strictObject({
  address: z.url({ protocol: /^https?$/ }).max(500),
  /** Sent as a bearer token. */
  token: z.string().max(500),
})
export type TextGateway = z.infer<typeof zTextGateway>

const MAY_PASS = [408, 425, 429]

async function hand(gateway: TextGateway, body: object, key: string, signal: AbortSignal): Promise<Handed> {
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

export const text = (given: {
  readonly gateway: () => TextGateway | null
  readonly mailbox: Mailbox
}): Channel & { readonly name: 'text' } => ({
  name: 'text',
  async deliver(parcel, signal) {
    const gateway = given.gateway()
    if (!gateway) {
      given.mailbox(parcel, null)
      return { is: 'taken' }
    }
    const { key, recipient, body, more } = parcel
    return hand(gateway, { to: recipient, from: more?.from.name ?? '', text: body, key }, key, signal)
  },
})
