import { KEPT, slug } from '../../core/fields/define'
import type { Choice, Field } from '../../core/fields/field'
import { PLAIN_STYLE } from '../../core/fields/kind'
import { FIELD_TYPES } from '../../core/fields/types'
import { foldText, type Value } from '../../core/language/value'
import { sayProblem } from '../../core/language/problems'
import { useOfField } from './fields'
import { territoryThatNames } from './hours'
import { segmentsThatName } from './segments-by-field'
import type { Workspace } from './workspace'
import type { FieldTypeName } from '../../core/language/field-types'
import { refuse } from './refuse'

/** So many choices are made of what is written, at the most. */
const CHOICES_MOST = 100
const SHOWN = 50

export interface RetypePlan {
  /** Records whose value can be kept as the other type. */
  readonly fit: number
  /** Values that cannot, the commonest first, with why. */
  readonly wrong: readonly { readonly text: string; readonly count: number; readonly why: string }[]
  /** How many records hold such a value. */
  readonly wrongRecords: number
  /** Choices that would be made. */
  readonly choices: readonly string[]
}

interface Read {
  readonly plan: RetypePlan
  readonly field: Field
  readonly values: readonly { readonly old: Value; readonly next: Value }[]
}

/** Every value that a field holds, read as another type: as people write it, or as it is kept. */
function readAs(workspace: Workspace, field: Field, type: FieldTypeName): Read {
  const catalogue = workspace.catalogue()
  const held = workspace.store.records.commonest(field, Number.MAX_SAFE_INTEGER)
  const said = (value: Value): string => FIELD_TYPES[field.type].write(value, { catalogue, field, currency: null })
  const isChoice = type === 'choice' || type === 'choices'
  const choices: Choice[] = []
  if (isChoice) {
    const words = new Map<string, string>()
    for (const { value } of held)
      for (const word of type === 'choices' ? said(value).split(/[;|]/) : [said(value)])
        if (word.trim() !== '' && !words.has(foldText(word))) words.set(foldText(word), word.trim())
    for (const word of [...words.values()].slice(0, CHOICES_MOST)) {
      const own = slug(word) || 'choice'
      const taken = new Set(choices.map((choice) => choice.id))
      let n = 1
      while (taken.has(n === 1 ? own : `${own}-${n}`)) n++
      choices.push({ id: n === 1 ? own : `${own}-${n}`, label: word })
    }
  }
  const { gone: _, ...rest } = field
  const next: Field = { ...rest, type, choices, synonyms: null, currencyKey: null }
  const context = { catalogue, field: next, style: PLAIN_STYLE, pipelineId: null }
  const values: { old: Value; next: Value }[] = []
  const wrong: RetypePlan['wrong'][number][] = []
  let [fit, wrongRecords] = [0, 0]
  for (const { value, count } of held) {
    const kept = Array.isArray(value) ? value.join('; ') : String(value)
    const first = FIELD_TYPES[type].read(said(value), context)
    const read = first.ok ? first : FIELD_TYPES[type].read(kept, context)
    if (read.ok) {
      fit += count
      values.push({ old: value, next: read.value })
    } else {
      wrongRecords += count
      if (wrong.length < SHOWN)
        wrong.push({ text: said(value), count, why: sayProblem(first.ok ? read.problem : first.problem) })
    }
  }
  return { plan: { fit, wrong, wrongRecords, choices: choices.map((choice) => choice.label) }, field: next, values }
}

function refuseWhatMayNot(workspace: Workspace, field: Field, type: FieldTypeName): void {
  if (field.keptBy !== null || field.key in KEPT)
    throw refuse('type', { code: 'systemField', field: field.label, cannot: 'change its type' })
  if (type === field.type) throw refuse('type', { code: 'sameType', field: field.label })
  if (type === 'stage' || type === 'pipeline') throw refuse('type', { code: 'onlyForStage' })
  const use = useOfField(workspace, field)
  if (use) throw refuse('type', { code: 'inUse', name: field.label, cannot: 'changed', by: use })
  const territory = territoryThatNames(workspace, field.object, field.key)
  if (territory)
    throw refuse('type', { code: 'inUse', name: field.label, cannot: 'changed', by: { territory: territory.name } })
  const [segment] = segmentsThatName(workspace, field)
  if (segment)
    throw refuse('type', { code: 'inUse', name: field.label, cannot: 'changed', by: { segment: segment.name } })
}

/** What giving a field another type would come to. Reads only. */
export function planRetype(workspace: Workspace, field: Field, type: FieldTypeName): RetypePlan {
  refuseWhatMayNot(workspace, field, type)
  return readAs(workspace, field, type).plan
}

/** Gives a field another type, with every value it holds. Refused while one of them does not fit: nothing is lost. */
export function retype(workspace: Workspace, field: Field, type: FieldTypeName): RetypePlan {
  refuseWhatMayNot(workspace, field, type)
  const read = readAs(workspace, field, type)
  const [first] = read.plan.wrong
  if (first)
    throw refuse('type', {
      code: 'notConverted',
      records: read.plan.wrongRecords,
      example: first.text,
      said: first.why,
    })
  workspace.db.atomically(() => {
    workspace.store.records.unmake(field)
    workspace.store.catalogue.retypeField(field.id, type, read.field.choices)
    workspace.catalogueChanged()
    workspace.store.records.refill(read.field, read.values)
  })
  workspace.tellCatalogue()
  return read.plan
}
