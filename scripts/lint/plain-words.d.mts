import type { Rule } from 'eslint'

/** What went from a text, with what stands there now; `null` where nothing of it is left. */
export declare function wentIn(text: string): { readonly word: string; readonly now: string } | null
/** Finds them in the texts of our files. */
export declare const plainWords: Rule.RuleModule
