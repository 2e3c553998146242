import type { Group } from '#core/conditions/document'
import type { RuleDocument } from '#core/rules/document'

/** Whether a condition of a rule is asked of the record itself and not of one linked to it. */
export function isOwn({ conditions }: RuleDocument, id: string | undefined): boolean {
  const inGroup = (group: Group): boolean =>
    group.items.some((item) => (item.kind === 'condition' ? item.id === id : item.kind === 'group' && inGroup(item)))
  return inGroup(conditions)
}
