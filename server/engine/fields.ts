import type { UsedBy } from '../../core/language/uses'
import { KEPT, slug } from '../../core/fields/define'
import type { FormerName } from '../../core/fields/catalogue'
import type { Field } from '../../core/fields/field'
import { FIELD_TYPES } from '../../core/fields/types'
import { foldText } from '../../core/language/value'
import type { ObjectKind } from '../../core/records/kinds'
import { groupUsesChoice, segmentsNamed, usesChoice, usesField } from '../../core/rules/uses'
import { all, condition } from './asking'
import { derivationsOf } from '../../core/derived/derivations'
import { territoryThatNames } from './hours'
import { ruleUse, rulesWhere } from './rules-where'
import { segmentsThatName } from './segments-by-field'
import { RefusedError, type Workspace } from './workspace'
import type { FieldTypeName } from '../../core/language/field-types'
import { newChain } from './live-records'
import { refuse } from './refuse'

/** More would make every read of a record slow, and nobody would find anything. */
export const FIELDS_MOST = 200
const CHOICES_MOST = 500

const everyField = (workspace: Workspace): readonly Field[] => [
  ...workspace.catalogue().data.fields,
  ...(workspace.catalogue().data.archived ?? []),
]

/** The field, also when it was put away; `null` when there is none. */
export const fieldOf = (workspace: Workspace, id: number): Field | null =>
  everyField(workspace).find((field) => field.id === id) ?? null

/** How rules and programs name it: its label in one word, with a number when that is taken. */
export function keyOf(label: string, taken: ReadonlySet<string>): string {
  const word =
    slug(label)
      .replace(/^[\d-]+/, '')
      .replace(/-([a-z\d])/g, (_, letter: string) => letter.toUpperCase())
      .slice(0, 40) || 'field'
  for (let n = 1; ; n++) {
    const key = n === 1 ? word : `${word}${n}`
    if (!taken.has(key)) return key
  }
}

export function refuseSameLabel(workspace: Workspace, object: ObjectKind, label: string, but: number | null): void {
  const same = workspace
    .catalogue()
    .fields(object)
    .find((field) => field.id !== but && foldText(field.label) === foldText(label))
  if (same) throw refuse('label', { code: 'sameName', of: 'field', name: same.label })
}

/** Makes a field at the end of its kind of record. Refuses a label that another one has. */
export function makeField(
  workspace: Workspace,
  given: {
    readonly object: ObjectKind
    readonly label: string
    readonly type: FieldTypeName
    readonly description: string
    readonly choices: readonly string[]
  },
): { readonly id: number; readonly key: string } {
  const { object, label, type, description } = given
  if (type === 'stage' || type === 'pipeline') throw refuse('type', { code: 'onlyForStage' })
  const own = everyField(workspace).filter((field) => field.object === object)
  if (own.length >= FIELDS_MOST) throw refuse('label', { code: 'noMoreThan', of: 'field', most: FIELDS_MOST })
  refuseSameLabel(workspace, object, label, null)
  const isChoice = type === 'choice' || type === 'choices'
  if (isChoice && given.choices.length === 0) throw refuse('choices', { code: 'firstChoice' })
  const seen = new Set<string>()
  const choices = (isChoice ? given.choices : []).map((word) => {
    const id = freshId(word, seen)
    seen.add(id)
    return { id, label: word }
  })
  if (new Set(choices.map((choice) => foldText(choice.label))).size < choices.length)
    throw refuse('choices', { code: 'twice', of: 'choice' })
  const key = keyOf(label, new Set([...own.map((field) => field.key), ...Object.keys(KEPT)]))
  const indexed = ['choice', 'person', 'date', 'email', 'currency'].includes(FIELD_TYPES[type].type)
  const id = workspace.db.atomically(() => {
    const made = workspace.store.catalogue.addField({
      object,
      key,
      label,
      type,
      description,
      keptBy: null,
      required: false,
      currencyKey: null,
      synonyms: null,
      choices,
      indexed,
      position: own.length,
    })
    // A field whose columns cannot be made is not made.
    workspace.tellCatalogue()
    return made
  })
  return { id, key }
}

/** Rules that name a field. */
export const rulesThatName = (workspace: Workspace, field: Pick<Field, 'object' | 'key'>) =>
  rulesWhere(workspace, (document) => usesField(document, field.object, field.key))

/** What of rules, and of runs that wait, keeps a field from going; `null` for nothing. */
export const useOfField = (workspace: Workspace, field: Pick<Field, 'object' | 'key'>) =>
  ruleUse(workspace, (document) => usesField(document, field.object, field.key))

/** A field that is worked out from another one, as what keeps that one. */
function hungBy(workspace: Workspace, { label, made }: Field): UsedBy {
  if (made?.by === 'score') return { scorecard: label }
  if (made?.by !== 'segment') return { field: label }
  const { segment } = made
  return {
    segment: workspace.store.segments.get(segment)?.name ?? label,
    rules: rulesWhere(workspace, (document) => segmentsNamed(document).includes(segment)).map(
      (rule) => rule.draft.name,
    ),
  }
}

/** Before something gets another name: what happened until now is told by the one it has. */
export function keepName(workspace: Workspace, what: FormerName['what'], of: string, name: string, next: string): void {
  if (name !== next) workspace.store.catalogue.addFormerName({ what, of, name, untilMs: workspace.clock.nowMs() })
}

/**
 * Renames, describes, requires, puts away or brings back. What a rule names, or the system keeps, cannot be put away.
 */
export function changeField(
  workspace: Workspace,
  field: Field,
  change: {
    readonly label?: string | undefined
    readonly phrase?: string | null | undefined
    readonly description?: string | undefined
    readonly required?: boolean | undefined
    readonly archived?: boolean | undefined
  },
): void {
  const { id } = field
  const away = !workspace.catalogue().field(field.object, field.key)
  if (change.label !== undefined || (change.archived === false && away))
    refuseSameLabel(workspace, field.object, change.label ?? field.label, id)
  const worked = field.made?.by === 'formula' || field.made?.by === 'rollUp'
  if (change.archived === true && !worked && (field.keptBy !== null || field.key in KEPT))
    throw refuse('archived', { code: 'systemField', field: field.label, cannot: 'be archived' })
  const [hung] = change.archived === true ? derivationsOf(workspace.catalogue()).hungOn(field) : []
  if (hung)
    throw refuse('archived', { code: 'inUse', name: field.label, cannot: 'archived', by: hungBy(workspace, hung) })
  if (change.required !== undefined && (field.keptBy !== null || field.key in KEPT))
    throw refuse('required', { code: 'fixedField', field: field.label })
  const [segment] = change.archived === true ? segmentsThatName(workspace, field) : []
  if (segment)
    throw refuse('archived', { code: 'inUse', name: field.label, cannot: 'archived', by: { segment: segment.name } })
  const territory = change.archived === true ? territoryThatNames(workspace, field.object, field.key) : null
  if (territory)
    throw refuse('archived', {
      code: 'inUse',
      name: field.label,
      cannot: 'archived',
      by: { territory: territory.name },
    })
  const use = change.archived === true ? useOfField(workspace, field) : null
  if (use) throw refuse('archived', { code: 'inUse', name: field.label, cannot: 'archived', by: use })
  const { label, phrase, description, required, archived } = change
  workspace.db.atomically(() => {
    if (label !== undefined) keepName(workspace, 'field', String(id), field.label, label)
    workspace.store.catalogue.updateField(id, {
      ...(label === undefined ? {} : { label }),
      ...(phrase === undefined ? {} : { phrase }),
      ...(description === undefined ? {} : { description }),
      ...(required === undefined ? {} : { required }),
      ...(archived === undefined ? {} : { archived }),
    })
  })
  workspace.tellCatalogue()
}

function freshId(label: string, taken: ReadonlySet<string>): string {
  const word = slug(label).slice(0, 60) || 'choice'
  for (let n = 1; ; n++) {
    const id = n === 1 ? word : `${word}-${n}`
    if (!taken.has(id)) return id
  }
}

function refuseOther(field: Field): void {
  if (field.type !== 'choice' && field.type !== 'choices') throw refuse('', { code: 'noChoices', field: field.label })
}

/** Adds a choice, or gives back the one that reads the same. */
export function addChoice(
  workspace: Workspace,
  field: Field,
  label: string,
): { readonly id: string; readonly added: boolean } {
  refuseOther(field)
  const same = field.choices.find((choice) => foldText(choice.label) === foldText(label))
  if (same) return { id: same.id, added: false }
  if (field.choices.length >= CHOICES_MOST)
    throw refuse('label', { code: 'noMoreThan', of: 'choice', most: CHOICES_MOST })
  const id = freshId(label, new Set([...field.choices, ...(field.gone ?? [])].map((choice) => choice.id)))
  workspace.db.atomically(() => workspace.store.catalogue.addChoice(field.id, id, label))
  workspace.tellCatalogue()
  return { id, added: true }
}

/** Renames a choice, or moves it before another one. */
export function changeChoice(
  workspace: Workspace,
  field: Field,
  id: string,
  change: { readonly label?: string | undefined; readonly before?: string | null | undefined },
): void {
  refuseOther(field)
  const { label, before } = change
  const same =
    label === undefined
      ? undefined
      : field.choices.find((one) => one.id !== id && foldText(one.label) === foldText(label))
  if (same) throw refuse('label', { code: 'choiceThere', choice: same.label })
  if (before !== undefined && before !== null && !field.choices.some((one) => one.id === before))
    throw refuse('before', { code: 'noSuchChoice', choice: before })
  workspace.db.atomically(() => {
    if (label !== undefined) {
      keepName(workspace, 'choice', `${field.id}:${id}`, field.choices.find((one) => one.id === id)?.label ?? id, label)
      workspace.store.catalogue.renameChoice(field.id, id, label)
    }
    if (before === undefined || before === id) return
    const rest = field.choices.map((one) => one.id).filter((one) => one !== id)
    const at = before === null ? rest.length : rest.indexOf(before)
    workspace.store.catalogue.orderChoices(field.id, [...rest.slice(0, at), id, ...rest.slice(at)])
  })
  workspace.tellCatalogue()
}

/**
 * Takes a choice out of a list; with `into`, records that hold it get the other one first, as changes of the person
 * who does it that rules do not look at. Refused while a rule or segment names it, or records would be left with it.
 */
export function removeChoice(
  workspace: Workspace,
  field: Field,
  id: string,
  into: string | null,
  personId: string,
): { readonly changed: number } {
  refuseOther(field)
  const { object, key } = field
  const choiceLabel = field.choices.find((one) => one.id === id)?.label ?? id
  const use = ruleUse(workspace, (document) => usesChoice(document, object, key, id))
  if (use) throw refuse('', { code: 'inUse', name: choiceLabel, cannot: 'removed', by: use })
  const segment = workspace.store.segments.all().find((one) => groupUsesChoice(one.filter, one.object, object, key, id))
  if (segment) throw refuse('', { code: 'inUse', name: choiceLabel, cannot: 'removed', by: { segment: segment.name } })
  const territory = territoryThatNames(workspace, object, key, id)
  if (territory)
    throw refuse('', { code: 'inUse', name: choiceLabel, cannot: 'removed', by: { territory: territory.name } })
  if (field.choices.length === 1) throw refuse('', { code: 'lastChoice' })
  if (into !== null && (into === id || !field.choices.some((one) => one.id === into)))
    throw refuse('into', { code: 'otherChoice' })
  const asked = all(
    field.type === 'choice' ? condition(key, 'is', { value: id }) : condition(key, 'includes', { values: [id] }),
  )
  const held = workspace.store.records.matching(
    object,
    workspace.store.records.where(asked, object, workspace.catalogue(), workspace.moment()),
    1_000_000,
  )
  if (held.length > 0 && into === null) throw refuse('into', { code: 'choiceHeld', records: held.length })
  workspace.db.atomically(() => {
    for (const { id: recordId, values } of held) {
      const now = values[key]
      const next = Array.isArray(now) ? [...new Set(now.map((one: string) => (one === id ? String(into) : one)))] : into
      const written = workspace.world.write(
        { object, id: recordId },
        { [key]: next },
        { by: 'person', personId },
        newChain(),
        true,
      )
      if (!written.ok) throw new RefusedError(written.problems)
    }
    workspace.store.catalogue.archiveChoice(field.id, id)
    workspace.handleNew()
  })
  workspace.tellCatalogue()
  return { changed: held.length }
}
