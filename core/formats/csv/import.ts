import { z } from 'zod'
import type { Catalogue } from '../../fields/catalogue'
import type { Field } from '../../fields/field'
import { FIELD_TYPES } from '../../fields/types'
import { PLAIN_STYLE, type ReadStyle } from '../../fields/kind'
import { foldText, isEmpty, sameValue, type Value, type Values } from '../../language/value'
import { sayProblem, type Problem } from '../../language/problems'
import { OBJECTS, OBJECT_WORDS, type ObjectKind, type RecordKind } from '../../records/kinds'
import { planWrite } from '../../records/plan-write'
import { isZone, ZONE_FIELD } from '../../rules/clock'
import { uncover, isIdHeading } from './own-file'
import type { CsvRow, CsvTable } from './read'

/** Where a column goes: a field of the record, its id here, or a word about the company or contact it is linked to. */
export const zTarget = z.discriminatedUnion('to', [
  z.strictObject({ to: z.literal('field'), field: z.string().max(100) }),
  z.strictObject({ to: z.literal('id') }),
  z.strictObject({ to: z.literal('company') }),
  z.strictObject({ to: z.literal('contact') }),
  z.strictObject({ to: z.literal('contactEmail') }),
  z.strictObject({ to: z.literal('skip') }),
])
export type Target = z.infer<typeof zTarget>

export const zMapping = z.strictObject({
  object: z.enum(OBJECTS).default('deal').describe('what the rows are'),
  knownBy: z
    .string()
    .max(100)
    .nullable()
    .default(null)
    .describe('the field by which a row finds its record; null for the usual one'),
  targets: z.array(zTarget).max(500).describe('where each column goes, in the order of the file'),
  decimal: z.enum(['point', 'comma']),
  dateOrder: z.enum(['dayFirst', 'monthFirst']),
})
export type ImportMapping = z.infer<typeof zMapping>

/** What else beside fields the columns of a kind of record can go to. */
export const OTHER_TARGETS: { readonly [O in ObjectKind]: readonly Exclude<Target['to'], 'field' | 'skip'>[] } = {
  deal: ['id', 'company', 'contact', 'contactEmail'],
  contact: ['id', 'company'],
  company: ['id'],
  appointment: ['id', 'company', 'contact', 'contactEmail'],
  none: [],
}

/** The fields by which a row is taken for a record that is there, in this order; the name counts within the company. */
export const USUAL_KEYS: { readonly [O in RecordKind]: readonly string[] } = {
  deal: ['reference', 'name'],
  contact: ['email', 'name'],
  company: ['name'],
  appointment: ['name'],
}

/** Fields that can tell records apart. */
export const keyFields = (object: ObjectKind, catalogue: Catalogue): readonly Field[] =>
  importFields(object, catalogue).filter((field) => ['text', 'email', 'phone', 'link', 'number'].includes(field.type))

export interface ImportCounts {
  readonly new: number
  readonly changed: number
  readonly same: number
  readonly refused: number
  readonly companies: number
  readonly contacts: number
}

export interface RowProblem {
  /** The column's heading; empty when the whole row is meant. */
  readonly heading: string
  readonly text: string
}

export interface RefusedRow {
  readonly row: number
  readonly problems: readonly RowProblem[]
}

/** What a row of the file says, once every cell is read. */
export interface RowPlan {
  readonly row: number
  readonly verdict: 'new' | 'changed' | 'same' | 'refused'
  /** The record it changes; `null` for a new one. */
  readonly id: number | null
  readonly values: Values
  readonly changes: readonly { readonly field: string; readonly old: Value; readonly new: Value }[]
  readonly company: NamedRecord | null
  readonly contact: NamedRecord | null
  readonly problems: readonly RowProblem[]
}

/** A company or contact named by a row: the one that is there, or one that will be created. */
export interface NamedRecord {
  readonly name: string
  readonly email: string | null
  readonly id: number | null
}

interface Known {
  readonly id: number
  readonly values: Values
}

/** What the planner asks of the records that are there. */
export interface ImportLookup {
  get(object: RecordKind, id: number): Known | null
  /** Records whose field reads the same, without case, accents and blanks; of that company only, when one is given. */
  find(object: RecordKind, field: string, value: Value, companyId: number | null): readonly Known[]
  /** The main company or contact of a record. */
  main(object: RecordKind, id: number, to: 'company' | 'contact'): Known | null
}

const column = (table: CsvTable, mapping: ImportMapping, wanted: (target: Target) => boolean): number =>
  table.headings.findIndex((_, i) => wanted(mapping.targets[i] ?? { to: 'skip' }))

/** Problems of the mapping itself: two columns for one field, no name to know a record by. */
export function checkMapping(table: CsvTable, mapping: ImportMapping, catalogue: Catalogue): readonly RowProblem[] {
  const problems: RowProblem[] = []
  const seen = new Map<string, string>()
  const { one } = OBJECT_WORDS[mapping.object]
  table.headings.forEach((heading, i) => {
    const target = mapping.targets[i] ?? { to: 'skip' }
    if (target.to === 'skip') return
    const name = target.to === 'field' ? target.field : `·${target.to}`
    const earlier = seen.get(name)
    if (earlier !== undefined) problems.push({ heading, text: `Same target as column “${earlier}”.` })
    seen.set(name, heading)
    if (target.to !== 'field') {
      if (!OTHER_TARGETS[mapping.object].includes(target.to))
        problems.push({ heading, text: `${OBJECT_WORDS[mapping.object].Many} can’t have this link.` })
      return
    }
    const field = catalogue.field(mapping.object, target.field)
    if (!field) problems.push({ heading, text: sayProblem({ code: 'unknownField', field: target.field }) })
    else if (field.keptBy && field.type !== 'pipeline')
      problems.push({ heading, text: sayProblem({ code: 'readOnly', field: field.label, keptBy: field.keptBy }) })
  })
  if (!seen.has('name')) problems.push({ heading: '', text: `Choose the column with the ${one} name.` })
  const { knownBy } = mapping
  if (knownBy !== null && !keyFields(mapping.object, catalogue).some((field) => field.key === knownBy))
    problems.push({ heading: '', text: `${OBJECT_WORDS[mapping.object].Many} can’t be matched by “${knownBy}”.` })
  else if (knownBy !== null && !seen.has(knownBy))
    problems.push({
      heading: '',
      text: `Choose the column for ${catalogue.field(mapping.object, knownBy)?.label}, which is used to match ${OBJECT_WORDS[mapping.object].many}.`,
    })
  return problems
}

/**
 * Plans a whole file against the records that are there; writes nothing. Every row gets one verdict, and a refused
 * row says for each column what is wrong and never keeps another row out.
 */
export function planImport(
  table: CsvTable,
  mapping: ImportMapping,
  lookup: ImportLookup,
  catalogue: Catalogue,
  nowMs: number,
): readonly RowPlan[] {
  const planner = new Planner(table, mapping, lookup, catalogue, nowMs)
  return table.rows.map((row) => planner.plan(row))
}

class Planner {
  private readonly style: ReadStyle
  /** What earlier rows were, so that no record stands in two of them. */
  private readonly taken = new Map<string, number>()
  /** Our own files write texts that a spreadsheet would take for a formula covered. */
  private readonly own: boolean
  private problems: RowProblem[] = []

  constructor(
    private readonly table: CsvTable,
    private readonly mapping: ImportMapping,
    private readonly lookup: ImportLookup,
    private readonly catalogue: Catalogue,
    private readonly nowMs: number,
  ) {
    this.style = { decimal: mapping.decimal, dateOrder: mapping.dateOrder }
    this.own = table.headings.some(isIdHeading)
  }

  private readonly wrong = (heading: string, problem: Problem): void => {
    this.problems.push({ heading, text: sayProblem(problem) })
  }

  plan(row: CsvRow): RowPlan {
    this.problems = []
    const { wrong } = this
    const { object } = this.mapping
    const nothing = { id: null, values: {}, changes: [], company: null, contact: null }
    if (row.broken !== null) {
      wrong('', { code: 'brokenRow', detail: row.broken })
      return { row: row.row, verdict: 'refused', ...nothing, problems: this.problems }
    }
    const values = this.valuesOf(row)
    const byId = this.byId(this.cell(row, (target) => target.to === 'id'))
    const company = this.company(
      this.cell(row, (target) => target.to === 'company'),
      byId,
    )
    const contact = this.contact(
      this.cell(row, (target) => target.to === 'contact'),
      this.cell(row, (target) => target.to === 'contactEmail'),
      company,
      byId,
    )
    const existing = byId ?? this.existing(values, company)
    const old = existing?.values ?? null
    if (existing) {
      // An empty cell says nothing about a record that is there: it leaves what stands there.
      for (const [key, value] of Object.entries(values)) if (isEmpty(value)) Reflect.deleteProperty(values, key)
    }
    // Rules that go by the contact's clock would pass over one that is no zone, and nobody would know.
    const zone = object === 'contact' ? (values[ZONE_FIELD] ?? null) : null
    if (!isEmpty(zone) && !isZone(zone) && !sameValue(zone, old?.[ZONE_FIELD] ?? null))
      wrong(this.headingOf(ZONE_FIELD), { code: 'unknownZone', raw: String(zone) })
    const unreadable = new Set(this.problems.map((problem) => problem.heading))
    const plan = planWrite(object, old, values, this.nowMs, this.catalogue)
    for (const { path, problem } of plan.problems) {
      const heading = this.headingOf(path)
      if (heading === '' || !unreadable.has(heading)) wrong(heading, problem)
    }

    const key = existing ? `#${existing.id}` : this.identity(values, company)
    const before = this.taken.get(key)
    if (before !== undefined && this.problems.length === 0) wrong('', { code: 'sameRow', row: before })
    const { problems } = this
    if (problems.length > 0) return { row: row.row, verdict: 'refused', ...nothing, values, company, contact, problems }
    this.taken.set(key, row.row)
    const changes = plan.changes.filter((change) => change.field in values && !sameValue(change.old, change.new))
    const verdict = !existing ? 'new' : changes.length > 0 ? 'changed' : 'same'
    return { row: row.row, verdict, id: existing?.id ?? null, values, changes, company, contact, problems }
  }

  private cell(row: CsvRow, wanted: (target: Target) => boolean): string {
    const text = (row.cells[column(this.table, this.mapping, wanted)] ?? '').trim()
    return this.own ? uncover(text) : text
  }

  private headingOf(key: string): string {
    return (
      this.table.headings[
        column(this.table, this.mapping, (target) => target.to === 'field' && target.field === key)
      ] ?? ''
    )
  }

  private valuesOf(row: CsvRow): Record<string, Value> {
    const { catalogue, style, mapping } = this
    const pipelineId = pipelineOf(
      this.cell(row, (target) => target.to === 'field' && target.field === 'pipeline'),
      catalogue,
    )
    const values: Record<string, Value> = {}
    this.table.headings.forEach((heading, i) => {
      const target = mapping.targets[i]
      if (target?.to !== 'field') return
      const field = catalogue.field(mapping.object, target.field)
      if (!field) return
      const raw = row.cells[i] ?? ''
      const read = FIELD_TYPES[field.type].read(this.own ? uncover(raw) : raw, { catalogue, field, style, pipelineId })
      if (!read.ok) this.wrong(heading, read.problem)
      // The pipeline only says which stage is meant; it follows from the stage.
      else if (!field.keptBy) values[field.key] = read.value
    })
    return values
  }

  private byId(text: string): Known | null {
    if (text === '') return null
    const found = /^\d{1,15}$/.test(text) ? this.lookup.get(this.mapping.object, Number(text)) : null
    if (!found)
      this.wrong(this.table.headings[column(this.table, this.mapping, (target) => target.to === 'id')] ?? '', {
        code: 'unknownRecord',
        object: OBJECT_WORDS[this.mapping.object].one,
        raw: text,
      })
    return found
  }

  private company(name: string, of: Known | null): NamedRecord | null {
    if (name === '') return null
    const linked = of && this.lookup.main(this.mapping.object, of.id, 'company')
    if (linked && foldText(String(linked.values.name)) === foldText(name)) return { name, email: null, id: linked.id }
    const found = this.lookup.find('company', 'name', name, null)
    if (found.length > 1) this.wrong('', { code: 'severalRecords', name, count: found.length })
    return { name, email: null, id: found[0]?.id ?? null }
  }

  private contact(name: string, email: string, company: NamedRecord | null, of: Known | null): NamedRecord | null {
    const { catalogue, lookup } = this
    const field = catalogue.field('contact', 'email')
    const read =
      field && email !== ''
        ? FIELD_TYPES.email.read(email, { catalogue, field, style: PLAIN_STYLE, pipelineId: null })
        : null
    if (read && !read.ok) this.wrong('', read.problem)
    const address = read?.ok && typeof read.value === 'string' ? read.value : null
    if (name === '' && address === null) return null
    const linked = of && lookup.main(this.mapping.object, of.id, 'contact')
    if (
      linked &&
      (name === '' || foldText(String(linked.values.name)) === foldText(name)) &&
      (address === null || linked.values.email === address)
    )
      return { name, email: address, id: linked.id }
    const byEmail = address === null ? [] : lookup.find('contact', 'email', address, null)
    const found = byEmail.length > 0 ? byEmail : lookup.find('contact', 'name', name, company?.id ?? null)
    if (found.length > 1) this.wrong('', { code: 'severalRecords', name: address ?? name, count: found.length })
    return { name: name === '' ? (address ?? '') : name, email: address, id: found[0]?.id ?? null }
  }

  private existing(values: Values, company: NamedRecord | null): Known | null {
    const { object, knownBy } = this.mapping
    const usual = USUAL_KEYS[object].find((key) => !isEmpty(values[key] ?? null))
    const key = knownBy ?? usual
    if (key === undefined) return null
    const value = values[key] ?? null
    if (isEmpty(value)) {
      this.wrong(this.headingOf(key), { code: 'required', field: this.catalogue.field(object, key)?.label ?? key })
      return null
    }
    const within = key === 'name' && knownBy === null && object !== 'company'
    // A company that is not there yet cannot have a record already.
    if (within && company && company.id === null) return null
    const found = this.lookup.find(object, key, value, within ? (company?.id ?? null) : null)
    if (found.length > 1) this.wrong('', { code: 'severalRecords', name: String(value), count: found.length })
    return found[0] ?? null
  }

  /** What makes two new rows the same record. */
  private identity(values: Values, company: NamedRecord | null): string {
    const key =
      this.mapping.knownBy ??
      USUAL_KEYS[this.mapping.object].find((one) => one !== 'name' && !isEmpty(values[one] ?? null))
    if (key !== undefined) return `${key} ${foldText(String(values[key] ?? ''))}`
    return `${foldText(String(values.name ?? ''))}|${foldText(company?.name ?? '')}`
  }
}

/** The pipeline that a cell names, by its name or id; `null` for none. */
export function pipelineOf(raw: string, catalogue: Catalogue): string | null {
  const wanted = foldText(raw)
  if (wanted === '') return null
  return catalogue.pipelines.find(({ id, name }) => id === raw.trim() || foldText(name) === wanted)?.id ?? null
}

/** The counts of a plan. New companies and contacts are counted once each, and only for rows that are taken. */
export function countPlan(plan: readonly RowPlan[]): ImportCounts {
  const count = (verdict: RowPlan['verdict']) => plan.filter((row) => row.verdict === verdict).length
  const made = (pick: (row: RowPlan) => NamedRecord | null, beside: (row: RowPlan) => string) =>
    new Set(
      plan.flatMap((row) => {
        const named = row.verdict === 'refused' ? null : pick(row)
        return named && named.id === null ? [foldText(named.email ?? `${named.name}|${beside(row)}`)] : []
      }),
    ).size
  return {
    new: count('new'),
    changed: count('changed'),
    same: count('same'),
    refused: count('refused'),
    companies: made(
      (row) => row.company,
      () => '',
    ),
    contacts: made(
      (row) => row.contact,
      (row) => row.company?.name ?? '',
    ),
  }
}

/** Fields a column of a file can go to: those that can be written, and the pipeline beside a stage. */
export const importFields = (object: ObjectKind, catalogue: Catalogue): readonly Field[] =>
  catalogue.fields(object).filter((field) => field.keptBy === null || field.type === 'pipeline')
