import type { Catalogue } from '../fields/catalogue'
import type { ChangeEvent, EventKind } from '../records/record'

/**
 * What can start a run and what can end a wait: something that is looked up under the same keys by both. A trigger says
 * what it listens to, a step what it waits for; what happened bears keys, and only those that go by one of them are
 * asked whether this is it.
 */

/** What happened, as far as signals look at it. */
export type Happened = Pick<ChangeEvent, 'kind' | 'changes' | 'ref'>

/** What a key hangs on, for whoever looks through what happened, or through what rules may do. */
export type About =
  | { readonly kind: EventKind }
  /** `exact` where it is about one value of the field and not about any. */
  | { readonly field: string; readonly exact?: string }

export interface SignalSpec<K extends string> {
  readonly kind: K
  /** The keys that what happened bears, each once. A key means the same for all kinds of records. */
  keys(event: Happened, catalogue: Catalogue): Iterable<string>
  about(key: string): About
  /** For one that itself says which rule it starts: its number. Such a rule is not looked up by keys. */
  ruleOf?(event: Pick<ChangeEvent, 'cause'>): number | null
}

export const defineSignal = <const K extends string>(spec: SignalSpec<K>): SignalSpec<K> => Object.freeze(spec)

/** What a record held until it was deleted is no change that anybody listens to. */
export const changesOf = ({ kind, changes }: Happened): Happened['changes'] => (kind === 'deleted' ? [] : changes)
