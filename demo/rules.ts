import { OTHER_RULES } from './rules/by-hand-and-more'
import { TIME_RULES } from './rules/by-the-clock'
import { DEAL_RULES } from './rules/on-deals'
import type { DemoRule } from './rules/parts'
import { BRANCH_RULES } from './rules/with-branches'

/** The rules the demo starts with: every kind of trigger and step is seen at work, one is off and one is unfinished. */
export const RULES: readonly DemoRule[] = [
  ...inFolder('Deals', DEAL_RULES),
  ...inFolder('Deals', BRANCH_RULES),
  ...OTHER_RULES,
  ...inFolder('By date', TIME_RULES),
]

function inFolder(folder: string, rules: readonly DemoRule[]): readonly DemoRule[] {
  return rules.map(({ state, document }) => ({ state, document: { ...document, folder } }))
}
