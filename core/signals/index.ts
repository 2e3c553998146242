import type { Catalogue } from '../fields/catalogue'
import type { About, Happened, SignalSpec } from './signal'
import * as rows from './all'

export type SignalName = keyof typeof rows

/** What a trigger listens to, or a step waits for: one key of one kind of signal. */
export interface Listen {
  readonly signal: SignalName
  readonly key: string
}

/** By kind. A line whose name is not its kind does not compile. */
export const SIGNALS: { readonly [K in SignalName]: SignalSpec<K> } = rows
export const SIGNAL_NAMES = Object.keys(rows) as readonly SignalName[]

/** What a key hangs on. */
export const aboutOf = ({ signal, key }: Listen): About => SIGNALS[signal].about(key)

/** Whether what happened bears one of the keys. */
export const bears = (event: Happened, catalogue: Catalogue, listens: readonly Listen[]): boolean =>
  listens.some(({ signal, key }) => {
    for (const one of SIGNALS[signal].keys(event, catalogue)) if (one === key) return true
    return false
  })
