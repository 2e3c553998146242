import { OBJECT_WORDS } from '../records/kinds'
import type { ObjectKind } from '../records/kinds'
import { isEitherWayLinkable } from '../records/record'
import { OPERATORS } from './operators'
import {
  type Group,
  CONDITIONS_MOST,
  GROUP_DEPTH_MOST,
  LINKED_DEPTH_MOST,
  placedConditions,
  placedDid,
  placedLinked,
  idsIn,
  groupDepth,
  linkedDepth,
} from './document'

/** What keeps a group of the right shape from being asked of a kind of record, and where; `null` when nothing does. */
export function misfit(
  group: Group,
  object: ObjectKind,
): { readonly path: readonly string[]; readonly text: string } | null {
  const placed = placedConditions(group, object)
  const at = (text: string, ...path: string[]) => ({ path, text })
  if (placed.length > CONDITIONS_MOST) return at(`A rule can have at most ${CONDITIONS_MOST} conditions.`)
  if (groupDepth(group) > GROUP_DEPTH_MOST) return at(`Groups can be nested ${GROUP_DEPTH_MOST} levels deep at most.`)
  if (linkedDepth(group) > LINKED_DEPTH_MOST)
    return at(`Linked records can be followed ${LINKED_DEPTH_MOST} levels at most.`)
  for (const { linked, object: from } of placedLinked(group, object)) {
    if (!isEitherWayLinkable(from, linked.object))
      return at(
        `${OBJECT_WORDS[from].Many} can’t be linked to ${OBJECT_WORDS[linked.object].many}.`,
        linked.id,
        'object',
      )
  }
  for (const { did, object: from } of placedDid(group, object)) {
    if (did.by !== from && !isEitherWayLinkable(from, did.by))
      return at(`${OBJECT_WORDS[from].Many} can’t be linked to ${OBJECT_WORDS[did.by].many}.`, did.id, 'by')
    if (did.group.items.some((item) => item.kind !== 'condition' && item.kind !== 'group'))
      return at('Of an activity only its own values can be asked.', did.id, 'group')
  }
  for (const { condition } of placed) {
    const read = OPERATORS[condition.op].params.safeParse(condition.params)
    if (read.success) continue
    const issue = read.error.issues[0]
    return at(issue?.message ?? 'is not valid', condition.id, 'params', ...(issue?.path ?? []).map(String))
  }
  const ids = idsIn(group)
  const double = ids.find((id, i) => ids.indexOf(id) !== i)
  return double === undefined ? null : at(`ID “${double}” is used twice.`)
}
