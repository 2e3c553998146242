import type { Field, SynonymSet } from '../../core/fields/field'
import { foldText } from '../../core/language/value'
import { doubleSpelling } from '../../core/synonyms/check'
import type { Workspace } from './workspace'
import { refuse } from './refuse'

const setsOf = (workspace: Workspace): readonly SynonymSet[] => workspace.catalogue().data.synonyms ?? []

/** The fields whose values are compared by a set; those that were put away as well. */
export const fieldsBySet = (workspace: Workspace, id: number): readonly Field[] =>
  [...workspace.catalogue().data.fields, ...(workspace.catalogue().data.archived ?? [])].filter(
    (field) => field.synonyms === id,
  )

function check(
  workspace: Workspace,
  id: number | null,
  {
    name,
    groups,
  }: { readonly name?: string | undefined; readonly groups?: readonly (readonly string[])[] | undefined },
): void {
  const same =
    name === undefined
      ? undefined
      : setsOf(workspace).find((set) => set.id !== id && foldText(set.name) === foldText(name))
  if (same) throw refuse('name', { code: 'sameName', of: 'synonymSet', name: same.name })
  const double = groups ? doubleSpelling(groups) : null
  if (double) throw refuse('groups', { code: 'spellingTwice', ...double })
}

/** Makes a set of spellings. Refuses one that would let a spelling count as two things. */
export function makeSynonymSet(workspace: Workspace, name: string, groups: readonly (readonly string[])[]): number {
  check(workspace, null, { name, groups })
  const id = workspace.db.atomically(() => workspace.store.catalogue.addSynonymSet(name, groups))
  workspace.tellCatalogue()
  return id
}

/** Renames a set or gives it other spellings; what is compared by it is compared anew at once. */
export function changeSynonymSet(
  workspace: Workspace,
  id: number,
  change: { readonly name?: string | undefined; readonly groups?: readonly (readonly string[])[] | undefined },
): void {
  check(workspace, id, change)
  const { name, groups } = change
  workspace.db.atomically(() => {
    workspace.store.catalogue.updateSynonymSet(id, {
      ...(name === undefined ? {} : { name }),
      ...(groups === undefined ? {} : { groups }),
    })
    if (groups) compareAnew(workspace, fieldsBySet(workspace, id))
  })
  workspace.tellCatalogue()
}

/** Takes a set away. Refused while fields are compared by it. */
export function removeSynonymSet(workspace: Workspace, id: number): void {
  const [field] = fieldsBySet(workspace, id)
  if (field) throw refuse('', { code: 'synonymsUsed', field: field.label, object: field.object })
  workspace.db.atomically(() => workspace.store.catalogue.removeSynonymSet(id))
  workspace.tellCatalogue()
}

/** Lets a text field be compared by a set, or by nothing but its own words. */
export function compareBy(workspace: Workspace, field: Field, set: number | null): void {
  if (field.type !== 'text') throw refuse('synonyms', { code: 'notATextField', field: field.label })
  if (field.key === 'name') throw refuse('synonyms', { code: 'synonymsOfNames' })
  if (set !== null && !setsOf(workspace).some((one) => one.id === set)) throw refuse('synonyms', { code: 'noSynonyms' })
  workspace.db.atomically(() => {
    // The compared form needs a column of its own, which a field with an index has.
    workspace.store.catalogue.updateField(field.id, { synonyms: set, ...(set === null ? {} : { indexed: true }) })
    compareAnew(workspace, [{ ...field, synonyms: set }])
  })
  workspace.tellCatalogue()
}

function compareAnew(workspace: Workspace, fields: readonly Field[]): void {
  workspace.catalogueChanged()
  for (const { id } of fields) {
    const field = workspace.catalogue().data.fields.find((one) => one.id === id)
    if (field) workspace.store.records.compareAnew(field)
  }
}
