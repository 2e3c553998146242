import { z } from 'zod'
import { OPERATOR_NAMES, type OperatorName } from './operators'

/** A question about one field of the record. `params` belong to the operator and are checked by its own schema. */
export interface Condition {
  readonly kind: 'condition'
  readonly id: string
  readonly field: string
  readonly op: OperatorName
  readonly not: boolean
  readonly params: object
}

export const GROUP_MODES = ['all', 'any', 'none'] as const
export type GroupMode = (typeof GROUP_MODES)[number]

/** An empty group holds: a rule without conditions lets every record through. */
export interface Group {
  readonly kind: 'group'
  readonly id: string
  readonly mode: GroupMode
  readonly items: readonly (Condition | Group)[]
}

export const CONDITIONS_MOST = 200
export const GROUP_DEPTH_MOST = 10

export const zId = z.string().min(1).max(40)

const zCondition = z.strictObject({
  kind: z.literal('condition'),
  id: zId,
  field: z.string().max(100),
  op: z.enum(OPERATOR_NAMES as [OperatorName, ...OperatorName[]]),
  not: z.boolean(),
  params: z.record(z.string(), z.unknown()),
})

export const zGroup: z.ZodType<Group> = z.strictObject({
  kind: z.literal('group'),
  id: zId,
  mode: z.enum(GROUP_MODES),
  get items() {
    return z.array(z.union([zCondition, zGroup])).max(CONDITIONS_MOST)
  },
})

export const EMPTY_GROUP: Group = { kind: 'group', id: 'c0', mode: 'all', items: [] }

/** Every condition of a group, in reading order. */
export function allConditions(group: Group): readonly Condition[] {
  return group.items.flatMap((item) => (item.kind === 'group' ? allConditions(item) : [item]))
}

export const groupDepth = (group: Group): number =>
  1 + Math.max(0, ...group.items.map((item) => (item.kind === 'group' ? groupDepth(item) : 0)))
