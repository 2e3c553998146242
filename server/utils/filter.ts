import { EMPTY_GROUP, zGroup, type Group } from '../../core/conditions/document'
import type { ObjectKind } from '../../core/records/kinds'
import { RefusedError, type Workspace } from '../engine/workspace'
import { ProblemError } from './problem'
import { misfit } from '../../core/conditions/misfit'

/** The group of conditions that a query parameter holds as JSON. Refuses what is none, and says which condition. */
export function readFilter(text: string | undefined, object: ObjectKind): Group {
  if (text === undefined || text === '') return EMPTY_GROUP
  let given: unknown
  try {
    given = JSON.parse(text)
  } catch {
    throw new ProblemError({ code: 'filterNotJson' })
  }
  const read = zGroup.safeParse(given)
  if (!read.success)
    throw new ProblemError({ code: 'filterInvalid', at: '', said: read.error.issues[0]?.message ?? 'It is not valid.' })
  return fitting(read.data, object)
}

/** The group, when it can be asked of such records; refuses it by the place that is wrong. */
export function fitting(group: Group, object: ObjectKind): Group {
  const wrong = misfit(group, object)
  if (wrong) throw new ProblemError({ code: 'filterInvalid', at: wrong.path.join('.'), said: wrong.text })
  return group
}

/** Refuses to write a field that is not there, or that nobody writes. */
export function writableField(
  workspace: Workspace,
  { object, field: key }: { readonly object: ObjectKind; readonly field: string },
): void {
  const field = workspace.catalogue().field(object, key)
  if (!field) throw new RefusedError([{ path: 'field', problem: { code: 'unknownField', field: key } }])
  if (field.keptBy)
    throw new RefusedError([{ path: 'field', problem: { code: 'readOnly', field: field.label, keptBy: field.keptBy } }])
}

/** A list of records as it is seen: its filter, and the words that its names contain. */
export function listed(filter: Group, words: string): Group {
  const value = words.trim()
  const named = {
    kind: 'condition',
    id: 'words',
    field: 'name',
    op: 'contains',
    not: false,
    params: { value },
  } as const
  return { kind: 'group', id: 'selection', mode: 'all', items: value === '' ? [filter] : [filter, named] }
}
