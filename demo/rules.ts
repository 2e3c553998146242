import { OTHER_RULES } from './rules/by-hand-and-more'
import { TIME_RULES } from './rules/by-the-clock'
import { DEAL_RULES } from './rules/on-deals'
import type { DemoRule } from './rules/parts'
import { BRANCH_RULES } from './rules/with-branches'

/** The rules the demo starts with: every kind of trigger and step is seen at work, one is off and one is unfinished. */
export const RULES: readonly DemoRule[] = [...DEAL_RULES, ...BRANCH_RULES, ...OTHER_RULES, ...TIME_RULES]
