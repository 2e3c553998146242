import { headingKey, toKept } from '../../core/formats/csv/guess'
import { missingIn, type Missing } from '../../core/formats/csv/missing'
import { readCsv } from '../../core/formats/csv/read'
import {
  checkMapping,
  countPlan,
  planImport,
  type ImportCounts,
  type ImportLookup,
  type NamedRecord,
  type RowPlan,
  type RowProblem,
} from '../../core/formats/csv/import'
import { foldText, isEmpty, type Value } from '../../core/language/value'
import { sayProblem } from '../../core/language/problems'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import type { Cause, RecordSnapshot } from '../../core/records/record'
import type { ImportRow } from '../store/imports'
import { RefusedError, type Workspace } from './workspace'
import { newChain } from './live-records'
import { catchingUp, catchUpAll, puttingOff, unnoticed } from './put-off'

/** Rows written in one commit, at the most. */
const BATCH = 200
/** How long others wait for a commit, at the most; as long as it is short, nobody notices. */
const BATCH_MS = 25

/** How whoever runs an import lets others in, and hears that it shall stop. */
export interface ImportControl {
  /** Whether somebody waits to write. */
  readonly awaited: () => boolean
  /** Lets others in; the import goes on after it. */
  readonly pause: () => Promise<void>
  readonly nowMs: () => number
}

/** Records that earlier rows made, by what rows name them with. */
type MadeRecords = Pick<Map<string, RecordRef>, 'get'> & { readonly set: (key: string, ref: RecordRef) => void }

const ALONE: ImportControl = {
  awaited: () => false,
  pause: () => new Promise((resolve) => setImmediate(resolve)),
  nowMs: () => performance.now(),
}

export interface ImportPreview {
  readonly headings: readonly string[]
  /** The first rows as they stand in the file. */
  readonly sample: readonly (readonly string[])[]
  readonly delimiter: string
  readonly mappingProblems: readonly RowProblem[]
  readonly counts: ImportCounts
  readonly rows: readonly RowPlan[]
  /** What the file names that is not in the workspace. */
  readonly missing: Missing
}

/**
 * The records that are there, as the planner asks for them. Each kind is read once for a whole file, when it is asked
 * for.
 */
function lookUp(workspace: Workspace): ImportLookup {
  const { records, links } = workspace.store
  const kinds = new Map<ObjectKind, readonly RecordSnapshot[]>()
  const indexes = new Map<string, ReadonlyMap<string, readonly RecordSnapshot[]>>()
  const allOf = (object: ObjectKind): readonly RecordSnapshot[] => {
    const known = kinds.get(object)
    if (known) return known
    const all = [
      ...records.scan(
        object,
        workspace
          .catalogue()
          .fields(object)
          .map((field) => field.key),
      ),
    ]
    kinds.set(object, all)
    return all
  }
  // Spellings that count as one value find the same record.
  const compared = (object: ObjectKind, key: string, value: Value): string => {
    const field = workspace.catalogue().field(object, key)
    return field && field.synonyms !== null
      ? String(workspace.catalogue().compared(field, value))
      : foldText(String(value))
  }
  const indexOf = (object: ObjectKind, key: string): ReadonlyMap<string, readonly RecordSnapshot[]> => {
    const known = indexes.get(`${object} ${key}`)
    if (known) return known
    const made = new Map<string, RecordSnapshot[]>()
    for (const record of allOf(object)) {
      const value = record.values[key]
      if (value === undefined || isEmpty(value)) continue
      const folded = compared(object, key, value)
      const there = made.get(folded)
      if (there) there.push(record)
      else made.set(folded, [record])
    }
    indexes.set(`${object} ${key}`, made)
    return made
  }
  return {
    get: (object, id) => records.read({ object, id }),
    find: (object, key, value, companyId) => {
      const found = indexOf(object, key).get(compared(object, key, value)) ?? []
      return companyId === null ? found : found.filter((record) => links.main(record, 'company') === companyId)
    },
    main: (object, id, to) => {
      const linked = links.main({ object, id }, to)
      return linked === null ? null : records.read({ object: to, id: linked })
    },
  }
}

/** The file as it is read, and what would become of each of its rows; of none while its columns are not in order. */
function planOf(workspace: Workspace, row: Pick<ImportRow, 'content' | 'mapping'>) {
  const table = readCsv(row.content)
  const catalogue = workspace.catalogue()
  const mappingProblems = checkMapping(table, row.mapping, catalogue)
  const rows =
    mappingProblems.length > 0
      ? []
      : planImport(table, row.mapping, lookUp(workspace), catalogue, workspace.clock.nowMs())
  return { table, mappingProblems, rows }
}

/** What the import would do, with nothing written. */
export function previewImport(workspace: Workspace, row: Pick<ImportRow, 'content' | 'mapping'>): ImportPreview {
  const { table, mappingProblems, rows } = planOf(workspace, row)
  return {
    headings: table.headings,
    sample: table.rows.slice(0, 5).map(({ cells }) => cells),
    delimiter: table.delimiter,
    mappingProblems,
    counts: countPlan(rows),
    rows,
    missing: missingIn(table, row.mapping, workspace.catalogue()),
  }
}

/** Starts an import that is ready, and works it to its end. */
export async function runImport(
  workspace: Workspace,
  id: number,
  rulesOn: boolean,
  control: ImportControl = ALONE,
): Promise<void> {
  if (workspace.store.imports.stateOf(id) !== 'ready') throw new Error(`import ${id} is not ready to run`)
  workspace.store.imports.begin(id, rulesOn)
  await continueImport(workspace, id, control)
}

/** Keeps what the import will do, then writes it in small commits, between which others get their turn. */
async function workNew(workspace: Workspace, row: ImportRow, control: ImportControl): Promise<void> {
  const { id, rulesOn } = row
  const { table, rows } = planOf(workspace, row)
  const refused = rows
    .filter((one) => one.verdict === 'refused')
    .map(({ row: number, problems }) => ({ row: number, problems }))
  workspace.db.together(() => {
    workspace.store.imports.start(id, rulesOn, countPlan(rows), refused)
    workspace.store.imports.remember(
      headingKey(table.headings),
      toKept(row.mapping, table.headings),
      workspace.clock.nowMs(),
    )
  })
  workspace.live.tell({ about: 'imports', id })
  await goOn(workspace, row, rows, control)
}

/** Goes on with an import that was begun, from the last row that was committed; at start, for those cut short. */
export async function continueImport(workspace: Workspace, id: number, control: ImportControl = ALONE): Promise<void> {
  const row = workspace.store.imports.get(id)
  if (!row || row.state !== 'running') return
  // Nothing of it was planned yet when it was cut short, or it has only just been begun.
  if (row.counts === null) return await workNew(workspace, row, control)
  const table = readCsv(row.content)
  const plan = planImport(table, row.mapping, lookUp(workspace), workspace.catalogue(), workspace.clock.nowMs())
  await goOn(workspace, row, plan, control)
}

/** Writes what is planned behind the last row that was committed. */
async function goOn(
  workspace: Workspace,
  row: ImportRow,
  plan: readonly RowPlan[],
  control: ImportControl,
): Promise<void> {
  const { id } = row
  const rest = plan.filter((one) => one.row > row.position)
  const made = new Map<string, RecordRef>()
  const started = control.nowMs()
  const total = plan.at(-1)?.row ?? 0
  const catchUpNowAndThen = catchingUp(workspace, control)
  for (let at = 0; at < rest.length;) {
    if (workspace.store.imports.stateOf(id) !== 'running') {
      await catchUpAll(workspace, control)
      return
    }
    at = writeBatch(workspace, row, rest, at, made, control)
    const perSecond = at / Math.max(0.001, (control.nowMs() - started) / 1000)
    workspace.live.tell({
      about: 'imports',
      id,
      progress: { row: rest[at - 1]?.row ?? 0, total, perSecond, leftSeconds: (rest.length - at) / perSecond },
    })
    await control.pause()
    await catchUpNowAndThen()
  }
  await catchUpAll(workspace, control)
  workspace.courier.wake()
  workspace.store.imports.end(id, workspace.clock.nowMs())
  workspace.live.tell({ about: 'imports', id })
}

/**
 * Writes the next rows and what rules do because of them as one commit: nobody else ever finds events here that wait
 * for rules. Answers where it has come to.
 */
function writeBatch(
  workspace: Workspace,
  { id, position, mapping: { object }, personId, apiKey, rulesOn }: ImportRow,
  rest: readonly RowPlan[],
  from: number,
  made: Map<string, RecordRef>,
  control: ImportControl,
): number {
  const cause: Cause = { by: 'import', importId: id, personId, ...(apiKey === null ? {} : { key: apiKey }) }
  const until = control.nowMs() + BATCH_MS
  const batch = (singly: boolean): number =>
    workspace.db.atomically(() => {
      const fresh = new Map<string, RecordRef>()
      const known: MadeRecords = {
        get: (key) => fresh.get(key) ?? made.get(key),
        set: (key, ref) => fresh.set(key, ref),
      }
      let at = from
      do {
        const one = rest[at]
        const write = (): void => {
          if (one) writeRow(workspace, object, one, cause, !rulesOn, known)
        }
        if (one && one.verdict !== 'refused') {
          if (singly) tryRow(workspace, id, one, write)
          else write()
        }
        at++
      } while (at < rest.length && at - from < BATCH && control.nowMs() < until && !control.awaited())
      workspace.store.imports.advance(id, rest[at - 1]?.row ?? position)
      puttingOff(workspace, unnoticed(workspace), () => workspace.handleNew())
      for (const [key, ref] of fresh) made.set(key, ref)
      return at
    })
  try {
    return batch(false)
  } catch (error) {
    // That any of them is refused after all is rare, and a way back for each of them costs a third of the time.
    if (!(error instanceof RefusedError)) throw error
    return batch(true)
  }
}

/** A row that is refused after all, because its record changed since the plan, is reported and loses no other. */
function tryRow(workspace: Workspace, importId: number, plan: RowPlan, write: () => void): void {
  try {
    workspace.db.atomically(write)
  } catch (error) {
    if (!(error instanceof RefusedError)) throw error
    const problems = error.problems.map(({ path, problem }) => ({ heading: path, text: sayProblem(problem) }))
    workspace.store.imports.refuse(importId, { row: plan.row, problems }, plan.verdict)
  }
}

function writeRow(
  workspace: Workspace,
  object: ObjectKind,
  plan: RowPlan,
  cause: Cause,
  rulesOff: boolean,
  made: MadeRecords,
): void {
  const nowMs = workspace.clock.nowMs()
  const company = plan.company && named(workspace, 'company', plan.company, [], cause, rulesOff, made)
  const contact =
    plan.contact && named(workspace, 'contact', plan.contact, company ? [company] : [], cause, rulesOff, made)
  const linked = [company, contact].filter((ref): ref is RecordRef => ref !== null)
  if (plan.id === null) {
    workspace.createBy(object, plan.values, linked, cause, rulesOff)
    return
  }
  const ref: RecordRef = { object, id: plan.id }
  const written = workspace.world.write(ref, plan.values, cause, newChain(), rulesOff)
  if (!written.ok) throw new RefusedError(written.problems)
  for (const to of linked) workspace.store.links.add(ref, to, '', nowMs)
}

/** The company or contact a row names: the one that is there, the one an earlier row made, or a new one. */
function named(
  workspace: Workspace,
  object: 'company' | 'contact',
  given: NamedRecord,
  linkTo: readonly RecordRef[],
  cause: Cause,
  rulesOff: boolean,
  made: MadeRecords,
): RecordRef {
  if (given.id !== null) return { object, id: given.id }
  const key = `${object} ${foldText(given.email ?? given.name)} ${given.email === null ? (linkTo[0]?.id ?? '') : ''}`
  const known = made.get(key)
  if (known) return known
  const values: Record<string, Value> = { name: given.name, ...(given.email === null ? {} : { email: given.email }) }
  const ref = workspace.createBy(object, values, linkTo, cause, rulesOff)
  made.set(key, ref)
  return ref
}
