import type { MessageChannel } from './guards'
import type { Template } from './template'

/** What a step writes to somebody outside, as far as it is known before any record is. */
export interface Writing {
  readonly channel: MessageChannel
  /** The contact’s field with the address; `null` where several will do. */
  readonly field: string | null
  /** Every text that may go out, with the param it stands in. Nothing of it goes out with a gap in it. */
  readonly texts: readonly { readonly param: string; readonly text: string }[]
  readonly template: Template | null
  /** Why it may go at any hour; empty where it may not. */
  readonly urgent: string
}
