import { CELL_REFUSALS } from './cells'
import type { FILE_REFUSALS } from './files'
import type { RECORD_REFUSALS } from './records'
import { RULE_REFUSALS } from './rules'
import type { SETTING_REFUSALS } from './settings'

/** What pages find by themselves; the rest is said by the server, and a page does not have to load it. */
const OWN = { ...CELL_REFUSALS, ...RULE_REFUSALS } as const
type More = typeof FILE_REFUSALS & typeof RECORD_REFUSALS & typeof SETTING_REFUSALS

/** All that something can be refused with and is said in one way only, by its code: facts in, text out. */
export type Refusals = typeof OWN & More

type Facts<C extends keyof Refusals> = Parameters<Refusals[C]> extends [infer F] ? F : unknown

/** A code with the facts that its text needs. */
export type Refusal = { readonly [C in keyof Refusals]: { readonly code: C } & Facts<C> }[keyof Refusals]

const words: Partial<Refusals> = { ...OWN }
/** Hands in those of the server. */
export function useRefusals(more: More): void {
  Object.assign(words, more)
}

/** The code itself where nobody handed its words in. */
export const sayRefusal = (refusal: Refusal): string =>
  (words[refusal.code] as ((facts: Refusal) => string) | undefined)?.(refusal) ?? refusal.code

/** The codes that can be said. */
export const refusalCodes = (): readonly string[] => Object.keys(words)
