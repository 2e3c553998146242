import type { Catalogue } from '../fields/catalogue'
import type { ObjectKind } from '../records/kinds'
import {
  placedConditions,
  placedLinked,
  type Ask,
  type Condition,
  type Did,
  type Group,
  type GroupMode,
  type Item,
  type Linked,
  type LinkedHow,
} from './document'
import { newDid, setDidWord } from './did'
import { DID_KEY, isAskKey, newAsk, setAskWord } from './asks'
import { howsFor } from './linked'
import { OPERATORS, operatorsFor } from './operators'
import type { OperatorName } from './operator-names'

/** Edits of a group of conditions. Each returns a new group and leaves the old one as it is. */

/** Replaces the item of that id, however deep it stands; `null` takes it out. */
function replace(group: Group, id: string, change: (item: Item) => Item | null): Group {
  return {
    ...group,
    items: group.items.flatMap((item) => {
      if (item.id === id) return change(item) ?? []
      return [
        item.kind === 'group'
          ? replace(item, id, change)
          : item.kind === 'linked' || item.kind === 'did'
            ? withGroup(item, replace(item.group, id, change))
            : item,
      ]
    }),
  }
}

const withGroup = <I extends Linked | Did>(item: I, group: Group): I =>
  group === item.group ? item : { ...item, group }

export const removeNode = (group: Group, id: string): Group => replace(group, id, () => null)

/** Changes the group of that id, whether it is a group among others or what is asked of linked records. */
function changeGroup(group: Group, id: string, change: (group: Group) => Group): Group {
  if (group.id === id) return change(group)
  return {
    ...group,
    items: group.items.map((item) =>
      item.kind === 'group'
        ? changeGroup(item, id, change)
        : item.kind === 'linked' || item.kind === 'did'
          ? withGroup(item, changeGroup(item.group, id, change))
          : item,
    ),
  }
}

export const setMode = (group: Group, id: string, mode: GroupMode): Group =>
  changeGroup(group, id, (found) => ({ ...found, mode }))
export const addNode = (group: Group, into: string, item: Item): Group =>
  changeGroup(group, into, (found) => ({ ...found, items: [...found.items, item] }))

/**
 * A question about linked records of a kind, asking at first only whether there is one. `groupId` is for what is asked
 * of them.
 */
export const newLinked = (id: string, groupId: string, object: ObjectKind): Linked => ({
  kind: 'linked',
  id,
  object,
  how: 'any',
  count: 2,
  group: { kind: 'group', id: groupId, mode: 'all', items: [] },
})

/** A question of the field of that key, or about the record as a whole. */
export const newQuestion = (
  id: string,
  key: string,
  object: ObjectKind,
  catalogue: Catalogue,
): Condition | Did | Ask =>
  key === DID_KEY ? newDid(id, object) : isAskKey(key) ? newAsk(id, key) : newCondition(id, key, object, catalogue)

/** A condition on a field, asked with the operator that its type offers first. */
export function newCondition(id: string, key: string, object: ObjectKind, catalogue: Catalogue): Condition {
  const field = catalogue.field(object, key)
  const op = (field && operatorsFor(field.type)[0]) ?? 'is'
  return { kind: 'condition', id, field: key, op, not: false, params: OPERATORS[op].start }
}

/** What can be kept of the params when the operator changes: a value stays a value, and becomes one of several. */
function carry(params: object, op: OperatorName): object {
  const old = params as Readonly<Record<string, unknown>>
  const start = OPERATORS[op].start as Readonly<Record<string, unknown>>
  const kept = Object.fromEntries(
    Object.entries(start).map(([key, value]) => {
      if (key in old) return [key, old[key]]
      if (key === 'values' && typeof old.value === 'string') return [key, [old.value]]
      if (key === 'value' && Array.isArray(old.values)) return [key, (old.values as unknown[])[0] ?? null]
      return [key, value]
    }),
  )
  return OPERATORS[op].params.safeParse(kept).success ? kept : start
}

/**
 * Sets one word of a condition: its `field` (which begins the question anew unless the type is the same), its `op`
 * (as `is` or `not is`), or one of the operator's own params.
 */
export function setConditionWord(
  group: Group,
  id: string,
  param: string,
  value: unknown,
  object: ObjectKind,
  catalogue: Catalogue,
): Group {
  const of =
    placedConditions(group, object).find(({ condition }) => condition.id === id)?.object ??
    placedLinked(group, object).find(({ linked }) => linked.id === id)?.object ??
    object
  return replace(group, id, (item) => {
    switch (item.kind) {
      case 'group':
        return item
      case 'linked':
        return setLinkedWord(item, param, value, of)
      case 'did':
        return setDidWord(item, param, value)
      case 'inSegment':
      case 'formula':
        return setAskWord(item, param, value)
      case 'condition':
        return setOwnWord(item, param, value, of, catalogue)
    }
  })
}

function setLinkedWord(linked: Linked, param: string, value: unknown, object: ObjectKind): Linked {
  if (param === 'how') return { ...linked, how: value as LinkedHow }
  if (param === 'count') return { ...linked, count: Number(value) }
  if (param !== 'object' || value === linked.object) return linked
  const other = value as ObjectKind
  // What was asked of one kind of record cannot be asked of another.
  return {
    ...linked,
    object: other,
    how: howsFor(object, other).includes(linked.how) ? linked.how : 'any',
    group: { ...linked.group, items: [] },
  }
}

function setOwnWord(
  condition: Condition,
  param: string,
  value: unknown,
  object: ObjectKind,
  catalogue: Catalogue,
): Condition {
  if (param === 'at') {
    const { at: _, ...rest } = condition
    return value === 'before' ? { ...rest, at: 'before' } : rest
  }
  if (param === 'field') {
    const key = String(value)
    const [before, after] = [catalogue.field(object, condition.field), catalogue.field(object, key)]
    const fits = after !== null && OPERATORS[condition.op].types.includes(after.type)
    if (fits && before?.type === after.type && before.type !== 'choice' && before.type !== 'choices')
      return { ...condition, field: key }
    return { ...newCondition(condition.id, key, object, catalogue), ...(condition.at ? { at: condition.at } : {}) }
  }
  if (param === 'op') {
    const [first, second] = String(value).split(' ')
    const op = (second ?? first ?? condition.op) as OperatorName
    return { ...condition, op, not: second !== undefined, params: carry(condition.params, op) }
  }
  return { ...condition, params: { ...condition.params, [param]: value } }
}
