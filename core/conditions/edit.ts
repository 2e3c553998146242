import type { Catalogue } from '../fields/catalogue'
import type { ObjectKind } from '../records/kinds'
import type { Condition, Group, GroupMode } from './document'
import { OPERATORS, operatorsFor, type OperatorName } from './operators'

/** Edits of a group of conditions. Each returns a new group and leaves the old one as it is. */

type Node = Condition | Group

/** Replaces the node of that id; `null` takes it out. */
function replace(group: Group, id: string, change: (node: Node) => Node | null): Group {
  return {
    ...group,
    items: group.items.flatMap((item) => {
      if (item.id === id) return change(item) ?? []
      return [item.kind === 'group' ? replace(item, id, change) : item]
    }),
  }
}

export const removeNode = (group: Group, id: string): Group => replace(group, id, () => null)

export function setMode(group: Group, id: string, mode: GroupMode): Group {
  if (group.id === id) return { ...group, mode }
  return replace(group, id, (node) => (node.kind === 'group' ? { ...node, mode } : node))
}

export function addNode(group: Group, into: string, node: Node): Group {
  if (group.id === into) return { ...group, items: [...group.items, node] }
  return replace(group, into, (found) => (found.kind === 'group' ? { ...found, items: [...found.items, node] } : found))
}

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
  const kept = Object.fromEntries(Object.entries(start).map(([key, value]) => {
    if (key in old) return [key, old[key]]
    if (key === 'values' && typeof old.value === 'string') return [key, [old.value]]
    if (key === 'value' && Array.isArray(old.values)) return [key, (old.values as unknown[])[0] ?? null]
    return [key, value]
  }))
  return OPERATORS[op].params.safeParse(kept).success ? kept : start
}

/**
 * Sets one word of a condition: its `field` (which begins the question anew unless the type is the same), its `op`
 * (as `is` or `not is`), or one of the operator's own params.
 */
export function setConditionWord(group: Group, id: string, param: string, value: unknown, object: ObjectKind, catalogue: Catalogue): Group {
  return replace(group, id, (node) => {
    if (node.kind !== 'condition') return node
    if (param === 'field') {
      const key = String(value)
      const [before, after] = [catalogue.field(object, node.field), catalogue.field(object, key)]
      const fits = after !== null && OPERATORS[node.op].types.includes(after.type)
      if (fits && before?.type === after.type && before.type !== 'choice' && before.type !== 'choices') return { ...node, field: key }
      return newCondition(id, key, object, catalogue)
    }
    if (param === 'op') {
      const [first, second] = String(value).split(' ')
      const op = (second ?? first ?? node.op) as OperatorName
      return { ...node, op, not: second !== undefined, params: carry(node.params, op) }
    }
    return { ...node, params: { ...node.params, [param]: value } }
  })
}
