import { z } from 'zod'
import type { Catalogue } from '../../fields/catalogue'
import type { Field } from '../../fields/field'
import { FIELD_TYPES } from '../../fields/types'
import type { ReadStyle } from '../../fields/kind'
import { foldText, isEmpty, sameValue, type Value, type Values } from '../../fields/value'
import { sayProblem, type Problem } from '../../problems'
import { planWrite } from '../../records/plan-write'
import type { CsvRow, CsvTable } from './read'

/** Where a column goes: a field of the deal, or a word about the company or the contact it belongs to. */
export const zTarget = z.discriminatedUnion('to', [
  z.strictObject({ to: z.literal('field'), field: z.string().max(100) }),
  z.strictObject({ to: z.literal('company') }),
  z.strictObject({ to: z.literal('contact') }),
  z.strictObject({ to: z.literal('contactEmail') }),
  z.strictObject({ to: z.literal('skip') }),
])
export type Target = z.infer<typeof zTarget>

export const zMapping = z.strictObject({
  targets: z.array(zTarget).max(500),
  decimal: z.enum(['point', 'comma']),
  dateOrder: z.enum(['dayFirst', 'monthFirst']),
})
export type ImportMapping = z.infer<typeof zMapping>

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
  /** The deal it changes; `null` for a new one. */
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

/** What the planner asks of the records that are there. */
export interface ImportLookup {
  dealsByReference(reference: string): readonly { readonly id: number; readonly values: Values }[]
  /** Deals of that name; of that company only, when one is given. */
  dealsByName(name: string, companyId: number | null): readonly { readonly id: number; readonly values: Values }[]
  companiesByName(name: string): readonly number[]
  contactsByEmail(email: string): readonly number[]
  /** Contacts of that name; of that company only, when one is given. */
  contactsByName(name: string, companyId: number | null): readonly number[]
}

const column = (table: CsvTable, mapping: ImportMapping, wanted: (target: Target) => boolean): number =>
  table.headings.findIndex((_, i) => wanted(mapping.targets[i] ?? { to: 'skip' }))

/** Problems of the mapping itself: two columns for one field, no name to know a deal by. */
export function checkMapping(table: CsvTable, mapping: ImportMapping, catalogue: Catalogue): readonly RowProblem[] {
  const problems: RowProblem[] = []
  const seen = new Map<string, string>()
  table.headings.forEach((heading, i) => {
    const target = mapping.targets[i] ?? { to: 'skip' }
    if (target.to === 'skip') return
    const name = target.to === 'field' ? target.field : `·${target.to}`
    const earlier = seen.get(name)
    if (earlier !== undefined) problems.push({ heading, text: `goes where “${earlier}” goes already` })
    seen.set(name, heading)
    if (target.to !== 'field') return
    const field = catalogue.field('deal', target.field)
    if (!field) problems.push({ heading, text: sayProblem({ code: 'unknownField', field: target.field }) })
    else if (field.keptBy && field.type !== 'pipeline') problems.push({ heading, text: sayProblem({ code: 'readOnly', field: field.label, keptBy: field.keptBy }) })
  })
  if (!seen.has('name')) problems.push({ heading: '', text: 'no column goes to the deal’s name; choose the one that holds it' })
  return problems
}

/**
 * Plans a whole file against the records that are there; writes nothing. Every row gets one verdict, and a refused
 * row says for each column what is wrong and never keeps another row out.
 */
export function planImport(table: CsvTable, mapping: ImportMapping, lookup: ImportLookup, catalogue: Catalogue, nowMs: number): readonly RowPlan[] {
  const style: ReadStyle = { decimal: mapping.decimal, dateOrder: mapping.dateOrder }
  const taken = new Map<string, number>()
  return table.rows.map((row) => planRow(row, table, mapping, style, lookup, catalogue, nowMs, taken))
}

function planRow(
  row: CsvRow, table: CsvTable, mapping: ImportMapping, style: ReadStyle, lookup: ImportLookup, catalogue: Catalogue, nowMs: number, taken: Map<string, number>,
): RowPlan {
  const problems: RowProblem[] = []
  const wrong = (heading: string, problem: Problem) => problems.push({ heading, text: sayProblem(problem) })
  const nothing = { id: null, values: {}, changes: [], company: null, contact: null }
  if (row.broken !== null) {
    wrong('', { code: 'brokenRow', detail: row.broken })
    return { row: row.row, verdict: 'refused', ...nothing, problems }
  }

  const cell = (wanted: (target: Target) => boolean): string => (row.cells[column(table, mapping, wanted)] ?? '').trim()
  const values: Record<string, Value> = {}
  const pipelineId = pipelineOf(cell((target) => target.to === 'field' && target.field === 'pipeline'), catalogue)
  table.headings.forEach((heading, i) => {
    const target = mapping.targets[i]
    if (target?.to !== 'field') return
    const field = catalogue.field('deal', target.field)
    if (!field) return
    const read = FIELD_TYPES[field.type].read(row.cells[i] ?? '', { catalogue, field, style, pipelineId })
    if (!read.ok) wrong(heading, read.problem)
    // The pipeline only says which stage is meant; it follows from the stage.
    else if (field.key !== 'pipeline') values[field.key] = read.value
  })

  const company = findCompany(cell((target) => target.to === 'company'), lookup, wrong)
  const contact = findContact(cell((target) => target.to === 'contact'), cell((target) => target.to === 'contactEmail'), company, lookup, catalogue, wrong)
  const existing = findDeal(values, company, lookup, wrong)
  const old = existing?.values ?? null
  if (existing) {
    // An empty cell says nothing about a deal that is there: it leaves what stands there.
    for (const [key, value] of Object.entries(values)) if (isEmpty(value)) Reflect.deleteProperty(values, key)
  }
  const headingOf = (key: string) => table.headings[column(table, mapping, (target) => target.to === 'field' && target.field === key)] ?? ''
  const readable = new Set(problems.map((problem) => problem.heading))
  const plan = planWrite('deal', old, values, nowMs, catalogue)
  for (const { path, problem } of plan.problems) {
    const heading = headingOf(path)
    if (heading === '' || !readable.has(heading)) wrong(heading, problem)
  }

  const key = existing ? `#${existing.id}` : identity(values, company)
  const before = taken.get(key)
  if (before !== undefined && problems.length === 0) wrong('', { code: 'sameRow', row: before })
  if (problems.length > 0) return { row: row.row, verdict: 'refused', ...nothing, values, company, contact, problems }
  taken.set(key, row.row)
  const seen = plan.changes.filter((change) => change.field in values && !sameValue(change.old, change.new))
  const verdict = !existing ? 'new' : seen.length > 0 ? 'changed' : 'same'
  return { row: row.row, verdict, id: existing?.id ?? null, values, changes: seen, company, contact, problems }
}

const identity = (values: Values, company: NamedRecord | null): string =>
  isEmpty(values.reference) ? `${foldText(String(values.name ?? ''))}|${foldText(company?.name ?? '')}` : `ref ${foldText(String(values.reference))}`

type Wrong = (heading: string, problem: Problem) => void

function pipelineOf(raw: string, catalogue: Catalogue): string | null {
  const wanted = foldText(raw)
  return wanted === '' ? null : (catalogue.pipelines.find((pipeline) => foldText(pipeline.name) === wanted)?.id ?? null)
}

function findCompany(name: string, lookup: ImportLookup, wrong: Wrong): NamedRecord | null {
  if (name === '') return null
  const found = lookup.companiesByName(name)
  if (found.length > 1) wrong('', { code: 'severalRecords', name, count: found.length })
  return { name, email: null, id: found[0] ?? null }
}

function findContact(name: string, email: string, company: NamedRecord | null, lookup: ImportLookup, catalogue: Catalogue, wrong: Wrong): NamedRecord | null {
  const field = catalogue.field('contact', 'email')
  const read = field && email !== '' ? FIELD_TYPES.email.read(email, { catalogue, field, style: { decimal: 'point', dateOrder: 'dayFirst' }, pipelineId: null }) : null
  if (read && !read.ok) wrong('', read.problem)
  const address = read?.ok && typeof read.value === 'string' ? read.value : null
  if (name === '' && address === null) return null
  const byEmail = address === null ? [] : lookup.contactsByEmail(address)
  const found = byEmail.length > 0 ? byEmail : lookup.contactsByName(name, company?.id ?? null)
  if (found.length > 1) wrong('', { code: 'severalRecords', name: address ?? name, count: found.length })
  return { name: name === '' ? (address ?? '') : name, email: address, id: found[0] ?? null }
}

function findDeal(values: Values, company: NamedRecord | null, lookup: ImportLookup, wrong: Wrong): { readonly id: number; readonly values: Values } | null {
  const reference = values.reference
  if (typeof reference === 'string') {
    const found = lookup.dealsByReference(reference)
    if (found.length > 1) wrong('', { code: 'severalRecords', name: reference, count: found.length })
    return found[0] ?? null
  }
  if (typeof values.name !== 'string') return null
  // A company that is not there yet cannot have a deal already.
  if (company && company.id === null) return null
  const found = lookup.dealsByName(values.name, company?.id ?? null)
  if (found.length > 1) wrong('', { code: 'severalRecords', name: values.name, count: found.length })
  return found[0] ?? null
}

/** The counts of a plan. New companies and contacts are counted once each, and only for rows that are taken. */
export function countPlan(plan: readonly RowPlan[]): ImportCounts {
  const count = (verdict: RowPlan['verdict']) => plan.filter((row) => row.verdict === verdict).length
  const made = (pick: (row: RowPlan) => NamedRecord | null, beside: (row: RowPlan) => string) => new Set(plan.flatMap((row) => {
    const named = row.verdict === 'refused' ? null : pick(row)
    return named && named.id === null ? [foldText(named.email ?? `${named.name}|${beside(row)}`)] : []
  })).size
  return {
    new: count('new'), changed: count('changed'), same: count('same'), refused: count('refused'),
    companies: made((row) => row.company, () => ''), contacts: made((row) => row.contact, (row) => row.company?.name ?? ''),
  }
}

/** Fields a column of a deal file can go to: those that can be written, and the pipeline beside a stage. */
export const importFields = (catalogue: Catalogue): readonly Field[] =>
  catalogue.fields('deal').filter((field) => field.keptBy === null || field.type === 'pipeline')
