import { OBJECT_WORDS } from '../core/records/kinds'
import { OTHER_RULES } from './rules/by-hand-and-more'
import { TIME_RULES } from './rules/by-the-clock'
import { DEAL_RULES } from './rules/on-deals'
import type { DemoRule } from './rules/parts'
import { BRANCH_RULES } from './rules/with-branches'

/** The rules the demo starts with: every kind of trigger and step is seen at work, one is off and one is unfinished. */
export const RULES: readonly DemoRule[] = [
  ...inFolders([...DEAL_RULES, ...BRANCH_RULES]),
  ...OTHER_RULES,
  ...inFolders(TIME_RULES, 'By date'),
]

/** In one folder, or each in that of the records it is about. */
function inFolders(rules: readonly DemoRule[], folder?: string): readonly DemoRule[] {
  return rules.map(({ state, document }) => ({
    state,
    document: { ...document, folder: folder ?? OBJECT_WORDS[document.object].Many },
  }))
}
