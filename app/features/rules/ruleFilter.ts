import { foldText } from '#core/language/value'
import type { AnswerOf } from '~/shared/live/useLiveQuery'

/** A rule as the list of rules tells it. */
export type ListedRule = AnswerOf<'/api/v1/rules'>['rules'][number]

/** What can be asked of the list, by its name in the address. */
export const RULE_FILTERS = ['words', 'state', 'of', 'start', 'field', 'by', 'trouble', 'folder', 'label'] as const
export type RuleFilterName = (typeof RULE_FILTERS)[number]
/** What is asked; empty for anything, and for a state for all that are not archived. */
export type RuleFilter = Readonly<Record<RuleFilterName, string>>

/** What may be wrong with a rule, with its words; the first asks for none of them. */
export const TROUBLES: readonly {
  readonly value: string
  readonly said: string
  readonly has: (rule: ListedRule) => boolean
}[] = [
  { value: '', said: 'Any', has: () => true },
  { value: 'failed', said: 'Failed runs', has: (rule) => rule.failed > 0 },
  { value: 'paused', said: 'Paused', has: (rule) => rule.paused },
  { value: 'unfinished', said: 'Not finished', has: (rule) => rule.problems > 0 || rule.unreadable !== null },
  { value: 'unpublished', said: 'Unpublished changes', has: (rule) => rule.unpublished },
  { value: 'quiet', said: 'On but no runs in 30 days', has: (rule) => rule.state === 'on' && rule.runs === 0 },
]

/** Whether a rule is one of those that are asked for; every word has to stand somewhere in what the list says of it. */
export function meetsFilter(rule: ListedRule, asked: RuleFilter): boolean {
  const { state, of, start, field, by, trouble, folder, label } = asked
  if (state === '' ? rule.state === 'archived' : rule.state !== state) return false
  if (of !== '' && rule.object !== of) return false
  if (start !== '' && !rule.triggers.some((kind) => kind === start)) return false
  if (field !== '' && !rule.fields.includes(field)) return false
  if (folder !== '' && rule.folder !== folder) return false
  if (label !== '' && !rule.labels.includes(label)) return false
  if (by !== '' && rule.changedBy !== by && rule.createdBy !== by) return false
  if (!(TROUBLES.find(({ value }) => value === trouble)?.has(rule) ?? true)) return false
  if (asked.words === '') return true
  const { name, description, labels, when, onlyIf, then, changedBy } = rule
  const text = foldText([name, description, rule.folder ?? '', ...labels, when, onlyIf, ...then, changedBy].join(' '))
  return foldText(asked.words)
    .split(' ')
    .every((word) => text.includes(word))
}
