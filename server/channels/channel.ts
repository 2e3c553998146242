import type { OutboxChannel } from '../../core/messages/guards'
import type { OutboxRow } from '../store/outbox'

/** How something leaves the house. Only these touch the outside, and never while anything is being written. */

export type ChannelName = OutboxChannel

/** What a service outside answered. */
export interface WebAnswer {
  /** The status of HTTP; `null` where nothing was reached. */
  readonly status: number | null
  readonly text: string
}

/** What is handed over. The key is the same for every attempt: the same key twice is the same thing. */
export interface Parcel extends Pick<OutboxRow, 'key' | 'recipient' | 'subject' | 'body' | 'more'> {
  readonly atMs: number
}

/**
 * `later` asks to be called again after a pause, `never` gives up; both with a reason that people are told. Throwing is
 * as good as `later`.
 */
export type Handed = { readonly answer?: WebAnswer } & (
  { readonly is: 'taken' } | { readonly is: 'later' | 'never'; readonly because: string }
)

export interface Channel {
  readonly name: ChannelName
  /** Takes something off our hands. What `signal` ends counts as not taken, whatever came of it. */
  deliver(parcel: Parcel, signal: AbortSignal): Promise<Handed>
  /** Lets go of what it holds open. */
  close?(): void
}

export type Channels = { readonly [K in ChannelName]: Channel & { readonly name: K } }
