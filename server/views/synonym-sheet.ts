import type { SynonymSet } from '../../core/fields/field'
import { foldText } from '../../core/language/value'
import type { ObjectKind } from '../../core/records/kinds'
import { fieldsBySet } from '../engine/synonyms'
import type { Workspace } from '../engine/workspace'

const SEEN_MOST = 500

export interface SynonymSheet {
  readonly set: SynonymSet
  readonly fields: readonly { readonly id: number; readonly object: ObjectKind; readonly label: string }[]
  readonly seen: readonly {
    readonly spelling: string
    readonly countsAs: string
    readonly known: boolean
    readonly count: number
  }[]
}

/** A set of spellings beside what is really written in the fields that are compared by it. */
export function synonymSheet(workspace: Workspace, set: SynonymSet): SynonymSheet {
  const catalogue = workspace.catalogue()
  const fields = fieldsBySet(workspace, set.id)
  const known = new Set(set.groups.flatMap((group) => group.map(foldText)))
  const seen = new Map<string, { countsAs: string; count: number }>()
  for (const field of fields) {
    for (const { value, count } of workspace.store.records.commonest(field, SEEN_MOST)) {
      const spelling = String(value)
      const before = seen.get(spelling)
      seen.set(spelling, { countsAs: catalogue.ownSpelling(field, spelling), count: count + (before?.count ?? 0) })
    }
  }
  return {
    set,
    fields: fields.map(({ id, object, label }) => ({ id, object, label })),
    seen: [...seen]
      .map(([spelling, one]) => ({ spelling, ...one, known: known.has(foldText(spelling)) }))
      .sort((a, b) => b.count - a.count || (a.spelling < b.spelling ? -1 : 1)),
  }
}
