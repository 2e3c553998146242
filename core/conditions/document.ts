import '../language/issues'
import { z } from 'zod'
import { zActivityName, type ActivityName } from '../activities'
import { OBJECTS, type ObjectKind, type RecordKind } from '../records/kinds'
import { OPERATOR_NAMES, type OperatorName } from './operator-names'

/** A question about one field of the record. `params` belong to the operator and are checked by its own schema. */
export interface Condition {
  readonly kind: 'condition'
  readonly id: string
  readonly field: string
  readonly op: OperatorName
  readonly not: boolean
  readonly params: object
  /**
   * Asks for the value before the change that started the run; without one (a list, a count) it is the value of now.
   */
  readonly at?: 'before' | undefined
}

export const LINKED_HOWS = ['any', 'every', 'none', 'atLeast', 'main'] as const
export type LinkedHow = (typeof LINKED_HOWS)[number]

/**
 * A question about the records linked to this one. A record without any linked one answers every such question with
 * no, "every" among them, but for "none", which then holds: the same as with an empty value.
 */
export interface Linked {
  readonly kind: 'linked'
  readonly id: string
  readonly object: ObjectKind
  readonly how: LinkedHow
  /** For "at least": how many; at least 1. */
  readonly count: number
  /** What is asked of the linked records; an empty group asks only whether they are there. */
  readonly group: Group
}

export const DID_HOWS = ['any', 'atLeast', 'none', 'last', 'this'] as const
export type DidHow = (typeof DID_HOWS)[number]
export const DID_SPANS = ['ever', 'days', 'run', 'step'] as const
export type DidSpan = (typeof DID_SPANS)[number]

/**
 * A question about what people did: whether such an activity is there, so many, none, or how the last one was, or the
 * one that started the run. Without a run (a list, a count) that one is the last.
 */
export interface Did {
  readonly kind: 'did'
  readonly id: string
  readonly how: DidHow
  /** For "at least": how many; at least 1. */
  readonly count: number
  readonly activity: ActivityName | null
  /** Whose: the record's own, or those of records of this kind that are linked to it. */
  readonly by: RecordKind
  /** Since when it must have been done: ever, so many days ago, the beginning of the run, or a step of it. */
  readonly span: DidSpan
  readonly days: number
  /** The step that it is counted from. */
  readonly step?: string | undefined
  /** What is asked of each, by the fields of its kind. */
  readonly group: Group
}

/** Whether the record is in a saved filter of its kind. */
export interface InSegment {
  readonly kind: 'inSegment'
  readonly id: string
  readonly not: boolean
  readonly segment: number | null
}

/** Whether a formula about the record comes to true. Where it comes to nothing, or goes wrong, it does not. */
export interface FormulaHolds {
  readonly kind: 'formula'
  readonly id: string
  readonly not: boolean
  readonly text: string
}

/** A question about the record as a whole, and not about one of its fields. */
export type Ask = InSegment | FormulaHolds

/** A single question. */
export type Leaf = Condition | Linked | Did | Ask

export const GROUP_MODES = ['all', 'any', 'none'] as const
export type GroupMode = (typeof GROUP_MODES)[number]

export type Item = Leaf | Group

/** An empty group holds: a rule without conditions lets every record through. */
export interface Group {
  readonly kind: 'group'
  readonly id: string
  readonly mode: GroupMode
  readonly items: readonly Item[]
}

export const CONDITIONS_MOST = 200
export const GROUP_DEPTH_MOST = 10
/** From a contact to its company, and from there to the company's deals. */
export const LINKED_DEPTH_MOST = 2
export const LINKED_COUNT_MOST = 1000
export const DID_DAYS_MOST = 3650
const FORMULA_TEXT_MOST = 2000

export const zId = z.string().min(1).max(40)

export const zCondition = z.strictObject({
  kind: z.literal('condition'),
  id: zId,
  field: z.string().max(100),
  op: z.enum(OPERATOR_NAMES),
  not: z.boolean(),
  params: z.record(z.string(), z.unknown()),
  at: z.literal('before').optional(),
})

const zLinked: z.ZodType<Linked> = z.strictObject({
  kind: z.literal('linked'),
  id: zId,
  object: z.enum(OBJECTS),
  how: z.enum(LINKED_HOWS),
  count: z.int().min(1).max(LINKED_COUNT_MOST),
  get group() {
    return zGroup
  },
})

const zDid: z.ZodType<Did> = z.strictObject({
  kind: z.literal('did'),
  id: zId,
  how: z.enum(DID_HOWS),
  count: z.int().min(1).max(LINKED_COUNT_MOST),
  activity: zActivityName.nullable(),
  by: z.enum(OBJECTS),
  span: z.enum(DID_SPANS),
  days: z.int().min(0).max(DID_DAYS_MOST),
  step: zId.optional(),
  get group() {
    return zGroup
  },
})

const zInSegment = z.strictObject({
  kind: z.literal('inSegment'),
  id: zId,
  not: z.boolean(),
  segment: z.int().min(1).nullable(),
})

const zFormulaHolds = z.strictObject({
  kind: z.literal('formula'),
  id: zId,
  not: z.boolean(),
  text: z.string().max(FORMULA_TEXT_MOST),
})

export const zGroup: z.ZodType<Group> = z.strictObject({
  kind: z.literal('group'),
  id: zId,
  mode: z.enum(GROUP_MODES),
  get items() {
    return z.array(z.union([zCondition, zLinked, zDid, zInSegment, zFormulaHolds, zGroup])).max(CONDITIONS_MOST)
  },
})

export const EMPTY_GROUP: Group = { kind: 'group', id: 'c0', mode: 'all', items: [] }

/** The kind of record that a question behind a “where” is about. */
export const objectWithin = (item: Linked | Did): ObjectKind => (item.kind === 'linked' ? item.object : item.by)

/** A condition with the kind of record it is asked of. */
export interface Placed {
  readonly condition: Condition
  readonly object: ObjectKind
}

/** Every condition of a group in reading order, those about linked records included. */
export function placedConditions(group: Group, object: ObjectKind): readonly Placed[] {
  return group.items.flatMap((item) => {
    if (item.kind === 'condition') return [{ condition: item, object }]
    if (isAsk(item)) return []
    return item.kind === 'group' ? placedConditions(item, object) : placedConditions(item.group, objectWithin(item))
  })
}

export const isAsk = (item: Item): item is Ask => item.kind === 'inSegment' || item.kind === 'formula'

/** Every question about a record as a whole, with the kind of record it is asked of. */
export function placedAsks(
  group: Group,
  object: ObjectKind,
): readonly { readonly ask: Ask; readonly object: ObjectKind }[] {
  return group.items.flatMap((item) => {
    if (item.kind === 'condition') return []
    if (isAsk(item)) return [{ ask: item, object }]
    return item.kind === 'group' ? placedAsks(item, object) : placedAsks(item.group, objectWithin(item))
  })
}

/** Every question about linked records, with the kind of record it is asked of. */
export function placedLinked(
  group: Group,
  object: ObjectKind,
): readonly { readonly linked: Linked; readonly object: ObjectKind }[] {
  return group.items.flatMap((item) => {
    if (item.kind === 'condition' || isAsk(item)) return []
    if (item.kind === 'group') return placedLinked(item, object)
    if (item.kind === 'did') return placedLinked(item.group, item.by)
    return [{ linked: item, object }, ...placedLinked(item.group, item.object)]
  })
}

/** Every question about what people did, with the kind of record it is asked of. */
export function placedDid(
  group: Group,
  object: ObjectKind,
): readonly { readonly did: Did; readonly object: ObjectKind }[] {
  return group.items.flatMap((item) => {
    if (item.kind === 'condition' || isAsk(item)) return []
    if (item.kind === 'group') return placedDid(item, object)
    return item.kind === 'did' ? [{ did: item, object }] : placedDid(item.group, item.object)
  })
}

/** The activity that the group of this id asks about; `null` where it asks about records. */
export function activityOfGroup(group: Group, id: string): ActivityName | null {
  for (const item of group.items) {
    if (item.kind === 'did' && idsIn(item.group).includes(id)) return item.activity
    const found =
      item.kind === 'group'
        ? activityOfGroup(item, id)
        : item.kind === 'linked'
          ? activityOfGroup(item.group, id)
          : null
    if (found) return found
  }
  return null
}

/** The kind of record that the group of this id asks about; `null` when there is no such group. */
export function objectOfGroup(group: Group, object: ObjectKind, id: string): ObjectKind | null {
  if (group.id === id) return object
  for (const item of group.items) {
    const found =
      item.kind === 'group'
        ? objectOfGroup(item, object, id)
        : item.kind === 'linked' || item.kind === 'did'
          ? objectOfGroup(item.group, objectWithin(item), id)
          : null
    if (found) return found
  }
  return null
}

/** Ids of everything in the group, its own included. */
export const idsIn = (group: Group): readonly string[] => [
  group.id,
  ...group.items.flatMap((item) =>
    item.kind === 'group'
      ? idsIn(item)
      : item.kind === 'linked' || item.kind === 'did'
        ? [item.id, ...idsIn(item.group)]
        : [item.id],
  ),
]

export const groupDepth = (group: Group): number =>
  1 +
  Math.max(
    0,
    ...group.items.map((item) =>
      item.kind === 'group'
        ? groupDepth(item)
        : item.kind === 'linked' || item.kind === 'did'
          ? groupDepth(item.group)
          : 0,
    ),
  )

/** How many times one goes from a record to linked ones. */
export const linkedDepth = (group: Group): number =>
  Math.max(
    0,
    ...group.items.map((item) =>
      item.kind === 'group' ? linkedDepth(item) : item.kind === 'linked' ? 1 + linkedDepth(item.group) : 0,
    ),
  )
