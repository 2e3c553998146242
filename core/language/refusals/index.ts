import { CELL_REFUSALS } from './cells'
import { FILE_REFUSALS } from './files'
import { RECORD_REFUSALS } from './records'
import { RULE_REFUSALS } from './rules'
import { SETTING_REFUSALS } from './settings'

/** All that something can be refused with and is said in one way only, by its code: facts in, text out. */
export const REFUSALS = {
  ...CELL_REFUSALS,
  ...FILE_REFUSALS,
  ...RECORD_REFUSALS,
  ...RULE_REFUSALS,
  ...SETTING_REFUSALS,
} as const

type Facts<C extends keyof typeof REFUSALS> = Parameters<(typeof REFUSALS)[C]> extends [infer F] ? F : unknown

/** A code with the facts that its text needs. */
export type Refusal = { readonly [C in keyof typeof REFUSALS]: { readonly code: C } & Facts<C> }[keyof typeof REFUSALS]

export const sayRefusal = (refusal: Refusal): string => (REFUSALS[refusal.code] as (facts: Refusal) => string)(refusal)
