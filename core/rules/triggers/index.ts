import type { TriggerKind } from '../trigger'
import { created } from './created'
import { entersStage } from './enters-stage'
import { fieldChanges } from './field-changes'

/** Every trigger kind, in the order in which they are offered. A new kind is its folder and its name here. */
const rows = { entersStage, fieldChanges, created }

export type TriggerName = keyof typeof rows
export const TRIGGERS: { readonly [K in TriggerName]: TriggerKind<K> } = rows
export const TRIGGER_NAMES = Object.keys(rows) as readonly TriggerName[]
