import { ACCOUNT_ANSWERS } from './accounts'
import type { Answer } from './answer'
import { REQUEST_ANSWERS } from './requests'
import { RULE_ANSWERS } from './rules'
import { WORK_ANSWERS } from './work'

/** Every way in which a request can be answered that was not done: facts in, answer out. */
const ANSWERS = { ...REQUEST_ANSWERS, ...ACCOUNT_ANSWERS, ...RULE_ANSWERS, ...WORK_ANSWERS } as const
type Answers = typeof ANSWERS

type Facts<C extends keyof Answers> = Parameters<Answers[C]> extends [infer F] ? F : unknown

/** A code with the facts that its answer needs. */
export type Denial = { readonly [C in keyof Answers]: { readonly code: C } & Facts<C> }[keyof Answers]

export const sayDenial = (denial: Denial): Answer => (ANSWERS[denial.code] as (facts: Denial) => Answer)(denial)

/** The codes that can be said, in the order of their areas. */
export const denialCodes = (): readonly string[] => Object.keys(ANSWERS)
