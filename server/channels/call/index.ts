import { z } from 'zod'
import { signedWith } from '../../store/signature'
import { baseOf } from '../base'
import type { Channel, Parcel } from '../channel'
import { handOver } from '../gateway'

/**
 * Calls, by a dialler over HTTP, or to the simulated phone that ships with the app. A dialler gets `POST <address>`
 * with `{ to, name, script, key, answerTo }` as JSON and an `Idempotency-Key`; any answer from 200 to 299 takes the
 * call, one from 400 to 499 but for 408, 425 and 429 refuses it for good. How it went it tells later, by `POST
 * <answerTo>` with `{ outcome, ended, notes, minutes }`.
 */

export const zDialler = z.strictObject({
  address: z.url({ protocol: /^https?$/ }).max(500),
  /** Sent as a bearer token. */
  token: z.string().max(500),
})
export type Dialler = z.infer<typeof zDialler>

export const call = (given: {
  readonly dialler: () => Dialler | null
  readonly secret: () => string
  readonly phone: (parcel: Parcel) => void
}): Channel & { readonly name: 'call' } => ({
  name: 'call',
  async deliver(parcel, signal) {
    const dialler = given.dialler()
    if (!dialler) {
      given.phone(parcel)
      return { is: 'taken' }
    }
    const { key, recipient, subject, body } = parcel
    const answerTo = `${baseOf()}/calls/${signedWith(given.secret(), 'call', key.replaceAll('-', '_'))}`
    return handOver(dialler, { to: recipient, name: subject, script: body, key, answerTo }, key, signal)
  },
})
