import type { Catalogue } from '../../fields/catalogue'
import type { Field, Stage } from '../../fields/field'
import type { ReadStyle } from '../../fields/kind'
import { FIELD_TYPES } from '../../fields/types'
import type { FieldTypeName } from '../../language/field-types'
import { foldText } from '../../language/value'
import { guessField } from './guess-field'
import { checkMapping, pipelineOf, type ImportMapping } from './import'
import { isIdHeading, uncover } from './own-file'
import type { CsvTable } from './read'

/** A word of the file that stands for nothing here, as it is written first, and how many rows have it. */
export interface MissingWord {
  readonly text: string
  readonly rows: number
}

export interface MissingChoices {
  /** The key of the field. */
  readonly field: string
  readonly words: readonly MissingWord[]
}

export interface MissingStages {
  /** The pipeline they would be added to; `null` for one that is missing too. */
  readonly pipeline: string | null
  /** What the file calls that pipeline; `null` where it names none, so that somebody has to say which. */
  readonly named: string | null
  readonly stages: readonly (MissingWord & { readonly outcome: Stage['outcome'] })[]
}

export interface MissingPerson extends MissingWord {
  readonly name: string
  /** Where the file knows somebody by it. */
  readonly email: string | null
}

export interface MissingField {
  readonly column: number
  readonly label: string
  readonly type: FieldTypeName
  readonly choices: readonly string[]
  /** How many rows have something in it. */
  readonly rows: number
}

/** What a file needs that is not in the workspace, all together, so that it is asked once. */
export interface Missing {
  readonly choices: readonly MissingChoices[]
  readonly stages: readonly MissingStages[]
  readonly people: readonly MissingPerson[]
  readonly fields: readonly MissingField[]
}

/** Longer texts are no names of anything. */
export const NAME_MOST = 100
/** So many of a kind are told; a column with more is hardly a list of choices. */
export const WORDS_MOST = 200
const FIELDS_MOST = 100

const WON = /\b(won|signed|ordered|ganho|ganha|gewonnen|gagne|wygran\w*)\b/
const LOST = /\b(lost|cancelled|canceled|rejected|declined|perdid[oa]|verloren|perdu|przegran\w*)\b/

/** What a stage most likely counts as, by its name. */
export function outcomeOf(name: string): Stage['outcome'] {
  const text = foldText(name)
  return LOST.test(text) ? 'lost' : WON.test(text) ? 'won' : 'open'
}

/** Words in the order in which they were met first. */
class Words {
  private readonly met = new Map<string, { text: string; rows: number }>()

  add(text: string): void {
    const word = text.trim()
    if (word === '' || word.length > NAME_MOST || /[\r\n]/.test(word)) return
    const known = this.met.get(foldText(word))
    if (known) known.rows++
    else this.met.set(foldText(word), { text: word, rows: 1 })
  }

  list(): readonly MissingWord[] {
    return [...this.met.values()].slice(0, WORDS_MOST)
  }
}

/** “ana.lopes@firm.example” is Ana Lopes, as long as nobody says otherwise. */
function nameOfEmail(email: string): string {
  const words = (email.split('@')[0] ?? '').split(/[._\-+]+/).filter((word) => /^\p{L}/u.test(word))
  return words.map((word) => word.charAt(0).toUpperCase() + word.slice(1)).join(' ') || email
}

/**
 * Choices, stages, people and fields that a file names and that are not in the workspace: whatever keeps its rows out
 * or would be left behind. Nothing while the columns themselves are not in order. Pure; looks at each different cell
 * of a column once.
 */
export function missingIn(table: CsvTable, mapping: ImportMapping, catalogue: Catalogue): Missing {
  if (checkMapping(table, mapping, catalogue).length > 0) return { choices: [], stages: [], people: [], fields: [] }
  const own = table.headings.some(isIdHeading)
  const rows = table.rows
    .filter((row) => row.broken === null)
    .map(({ cells }) => cells.map((cell) => (own ? uncover(cell.trim()) : cell.trim())))
  const style: ReadStyle = { decimal: mapping.decimal, dateOrder: mapping.dateOrder }
  const reader = { table, mapping, catalogue, rows, style }
  return {
    choices: columnsOf(reader, ['choice', 'choices']).flatMap(({ column, field }) => choicesOf(reader, column, field)),
    stages: stagesOf(reader),
    people: peopleOf(reader),
    fields: fieldsOf(reader),
  }
}

interface Reader {
  readonly table: CsvTable
  readonly mapping: ImportMapping
  readonly catalogue: Catalogue
  readonly rows: readonly (readonly string[])[]
  readonly style: ReadStyle
}

function columnsOf(
  { table, mapping, catalogue }: Reader,
  types: readonly FieldTypeName[],
): readonly { readonly column: number; readonly field: Field }[] {
  return table.headings.flatMap((_, column) => {
    const target = mapping.targets[column]
    const field = target?.to === 'field' ? catalogue.field(mapping.object, target.field) : null
    return field && types.includes(field.type) ? [{ column, field }] : []
  })
}

/** Whether a cell reads as a value of the field, or what is wrong with it; each text is read once. */
function reading({ catalogue, style }: Reader, field: Field): (text: string, pipelineId: string | null) => string {
  const known = new Map<string, string>()
  return (text, pipelineId) => {
    const key = `${pipelineId} ${text}`
    const before = known.get(key)
    if (before !== undefined) return before
    const read = FIELD_TYPES[field.type].read(text, { catalogue, field, style, pipelineId })
    const code = read.ok ? '' : read.problem.code
    known.set(key, code)
    return code
  }
}

function choicesOf(reader: Reader, column: number, field: Field): readonly MissingChoices[] {
  const codeOf = reading(reader, field)
  const words = new Words()
  for (const cells of reader.rows) {
    const cell = cells[column] ?? ''
    for (const item of field.type === 'choices' ? new Set(cell.split(/[;|]/).map((one) => one.trim())) : [cell])
      if (codeOf(item, null) === 'notAChoice') words.add(item)
  }
  const found = words.list()
  return found.length > 0 ? [{ field: field.key, words: found }] : []
}

function stagesOf(reader: Reader): readonly MissingStages[] {
  const { catalogue, rows } = reader
  const [at] = columnsOf(reader, ['stage'])
  const [pipelineAt] = columnsOf(reader, ['pipeline'])
  if (!at) return []
  const codeOf = reading(reader, at.field)
  const groups = new Map<string, { pipeline: string | null; named: string | null; words: Words }>()
  /** How many rows each pipeline's stages have: stages that are new go where the others are. */
  const used = new Map<string, number>()
  for (const cells of rows) {
    const cell = cells[at.column] ?? ''
    const named = pipelineAt ? (cells[pipelineAt.column] ?? '') : ''
    if (cell === '') continue
    const pipeline = pipelineOf(named, catalogue)
    const unknown = named !== '' && pipeline === null
    // A pipeline that is missing has no stages: all of those it is named with are made with it.
    if (!unknown && codeOf(cell, pipeline) !== 'unknownStage') {
      const stage = catalogue.allStages().find((one) => foldText(one.name) === foldText(cell))
      if (stage) used.set(stage.pipelineId, (used.get(stage.pipelineId) ?? 0) + 1)
      continue
    }
    if (named.length > NAME_MOST) continue
    const key = pipeline ?? `·${foldText(named)}`
    const group = groups.get(key) ?? { pipeline, named: named === '' ? null : named, words: new Words() }
    groups.set(key, group)
    group.words.add(cell)
  }
  const [usual] = [...catalogue.pipelines].sort((a, b) => (used.get(b.id) ?? 0) - (used.get(a.id) ?? 0))
  return [...groups.values()].flatMap(({ pipeline, named, words }) => {
    const stages = words.list().map((word) => ({ ...word, outcome: outcomeOf(word.text) }))
    return stages.length > 0 ? [{ pipeline: named === null ? (usual?.id ?? null) : pipeline, named, stages }] : []
  })
}

function peopleOf(reader: Reader): readonly MissingPerson[] {
  const words = new Words()
  for (const { column, field } of columnsOf(reader, ['person'])) {
    const codeOf = reading(reader, field)
    for (const cells of reader.rows)
      if (codeOf(cells[column] ?? '', null) === 'unknownPerson') words.add(cells[column] ?? '')
  }
  return words.list().map(({ text, rows }) => {
    const isEmail = /^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(text)
    return { text, rows, name: isEmail ? nameOfEmail(text) : text, email: isEmail ? text.toLowerCase() : null }
  })
}

/** Columns that go nowhere and whose heading is the label of no field. */
function fieldsOf({ table, mapping, catalogue, rows, style }: Reader): readonly MissingField[] {
  const { object } = mapping
  const taken = new Set(catalogue.fields(object).map((field) => foldText(field.label)))
  return table.headings
    .flatMap((heading, column) => {
      const label = heading.trim()
      if ((mapping.targets[column]?.to ?? 'skip') !== 'skip' || label === '' || label.length > NAME_MOST) return []
      if (isIdHeading(label) || taken.has(foldText(label))) return []
      taken.add(foldText(label))
      const cells = rows.map((row) => row[column] ?? '').filter(Boolean)
      if (cells.length === 0) return []
      return [{ column, label, rows: cells.length, ...guessField(label, cells, { object, style, catalogue }) }]
    })
    .slice(0, FIELDS_MOST)
}
