import type { TriggerKind } from '../trigger'
import * as rows from './all'

export type TriggerName = keyof typeof rows
/** By kind. A line whose name is not its kind does not compile. */
export const TRIGGERS: { readonly [K in TriggerName]: TriggerKind<K> } = rows
export const TRIGGER_NAMES = Object.keys(rows) as readonly TriggerName[]
