import type { Group } from '../../core/conditions/document'
import { OBJECT_WORDS, type ObjectKind } from '../../core/records/kinds'
import type { Workspace } from '../engine/workspace'

/** Records that somebody owns. */
export const RECORD_OBJECTS = ['deal', 'contact', 'company'] as const satisfies readonly ObjectKind[]

export interface Counted {
  readonly count: number
  readonly first: number | null
  /** The list of them. */
  readonly path: string
}

const asking = (field: string, op: 'isEmpty' | 'is', params: object): Group => ({
  kind: 'group',
  id: 'c0',
  mode: 'all',
  items: [{ kind: 'condition', id: 'c1', field, op, not: false, params: { ...params } }],
})

/** How many records of a kind meet conditions, and the first of them. */
export function counted(workspace: Workspace, object: ObjectKind, group: Group): Counted {
  const { records } = workspace.store
  const where = records.where(group, object, workspace.catalogue(), workspace.moment())
  const path = `/records/${OBJECT_WORDS[object].many}?filter=${encodeURIComponent(JSON.stringify(group))}`
  return { ...records.counted(object, where), path }
}

/** Records of a kind in which a field is empty; `null` where there is no such field. */
export const emptyIn = (workspace: Workspace, object: ObjectKind, field: string): Counted | null =>
  workspace.catalogue().field(object, field) ? counted(workspace, object, asking(field, 'isEmpty', {})) : null

export const ownedBy = (workspace: Workspace, object: ObjectKind, personId: string): Counted =>
  counted(workspace, object, asking('owner', 'is', { value: personId }))
