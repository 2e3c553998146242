import { z } from 'zod'
import type { Mailbox } from '../../stand-ins/mailbox'
import type { Channel } from '../channel'
import { handOver } from '../gateway'

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
    return handOver(gateway, { to: recipient, from: more?.from.name ?? '', text: body, key }, key, signal)
  },
})
