import { fromKept, guessMapping, headingKey } from '../../core/formats/csv/guess'
import { checkMapping, type ImportMapping } from '../../core/formats/csv/import'
import { readCsv } from '../../core/formats/csv/read'
import { refusedCsv } from '../../core/formats/csv/refused'
import { readDmn } from '../../core/formats/dmn'
import { readHolidays } from '../../core/formats/ics'
import { readRuleText } from '../../core/formats/rule-text'
import { stepOf } from '../../core/rules/edit'
import { catalogues } from '../../core/rules/results'
import { planRates } from '../engine/rates'
import { RETENTION_KINDS, type RetentionKind } from '../../core/records/retention'
import type { ObjectKind, RecordKind } from '../../core/records/kinds'
import type { RuleDocument } from '../../core/rules/document'
import type { Scope } from '../../core/access/scope'
import { readActivities, tellActivities, type GivenActivity, type ActivitiesTold } from '../engine/activities'
import { runCases } from '../engine/cases'
import { makeBulk, previewBulk, type BulkEdit, type BulkOrder } from '../engine/bulk-edit'
import { exportFile, exportSeen } from '../engine/export'
import type { GivenHours } from '../engine/hours'
import { standingSize } from '../engine/standing'
import { movesBy } from '../engine/replan'
import { makeLinks, planLinks, type LinkOrder } from '../engine/link-all'
import { previewImport, type ImportPreview } from '../engine/import'
import { surveyUndo } from '../engine/undo'
import { previewCard } from '../engine/scorecards'
import type { Workspace } from '../engine/workspace'
import { aheadGrid, aheadOf, type AheadQuery } from '../views/ahead'
import { board } from '../views/board'
import { evidenceFor } from '../views/evidence'
import { showMaking, type MakingAsked } from '../views/derived'
import { fieldSheet } from '../views/field-sheet'
import { segmentCounts } from '../views/segments'
import { forecastView, rehearsalView, rehearsedSheet, type RehearsalQuery } from './rehearsals'
import { listPage, type ListQuery } from '../engine/record-list'
import { plannedFor } from '../views/planned-for'
import { preflightAll, preflightOf } from '../views/preflight'
import type { GivenCard } from '../../core/scoring/card'

/** Rows with something to say come first; the screen shows the rest in numbers. */
const PREVIEW_ROWS = 300

/** So many rows are enough to guess columns by. */
const GUESS_ROWS = 1000

/** Where columns go; or why the file cannot be read. */
export type Guess =
  | { readonly problem: null; readonly mapping: ImportMapping }
  | { readonly problem: string; readonly mapping?: undefined }

function importOf(workspace: Workspace, id: number) {
  const row = workspace.store.imports.get(id)
  if (!row) throw new Error(`there is no import ${id}`)
  return row
}

/** What can be asked of a thread beside the one that serves pages: whatever looks at many records. */
export const QUESTIONS = {
  /** Files that people bring: read beside the thread that serves pages, whatever stands in them. */
  ruleText: (_workspace: Workspace, text: string) => readRuleText(text),
  holidays: (workspace: Workspace, text: string) => readHolidays(text, workspace.today()),
  table(
    workspace: Workspace,
    { document, step, text }: { readonly document: RuleDocument; readonly step: string; readonly text: string },
  ) {
    const placed = stepOf(document, step)
    const catalogue = catalogues(document, workspace.catalogue()).get(step) ?? workspace.catalogue()
    return placed && readDmn(text, { catalogue, object: placed.object })
  },
  ratesPlan: (workspace: Workspace, text: string) => planRates(workspace, text).plan,
  /** What an import would do; the first rows only. */
  preview(workspace: Workspace, id: number): ImportPreview {
    const { rows, ...rest } = previewImport(workspace, importOf(workspace, id))
    const weight = { refused: 0, changed: 1, new: 2, same: 3 } as const
    return {
      ...rest,
      rows: [...rows].sort((a, b) => weight[a.verdict] - weight[b.verdict] || a.row - b.row).slice(0, PREVIEW_ROWS),
    }
  },
  /** The refused rows of an import as CSV; before it is run they are those of its preview. */
  refused(workspace: Workspace, id: number): string {
    const row = importOf(workspace, id)
    const rows =
      row.state === 'ready'
        ? previewImport(workspace, row).rows.filter((one) => one.verdict === 'refused')
        : (row.refused ?? [])
    return refusedCsv(readCsv(row.content), rows)
  },
  /** Where the columns of a file go, guessed by its first rows: by those of a file before it with the same headings. */
  guess(
    workspace: Workspace,
    { content, object, before }: { readonly content: string; readonly object?: RecordKind; readonly before: boolean },
  ): Guess {
    const table = readCsv(content, GUESS_ROWS)
    if (table.problem !== null) return { problem: table.problem }
    if (table.headings.length === 0 || table.rows.length === 0) return { problem: 'The file has no rows.' }
    const catalogue = workspace.catalogue()
    const kept = before ? workspace.store.imports.remembered(headingKey(table.headings)) : null
    const known = kept && fromKept(kept, table.headings)
    const fits =
      known && (object === undefined || known.object === object) && checkMapping(table, known, catalogue).length === 0
    return { problem: null, mapping: fits ? known : guessMapping(table, catalogue, object) }
  },
  /** How much there is of each kind that is kept for some time, and the room it takes. */
  storage(workspace: Workspace, _: null) {
    const { retention } = workspace.store
    const { file, free, kinds } = retention.sizes()
    const of = (kind: RetentionKind) => ({
      count: retention.count(kind),
      oldestMs: retention.oldest(kind),
      bytes: kinds[kind],
    })
    return {
      file,
      free,
      kinds: Object.fromEntries(RETENTION_KINDS.map((kind) => [kind, of(kind)])) as Record<
        RetentionKind,
        ReturnType<typeof of>
      >,
    }
  },
  /** How many rows of a kind would go if it were kept for so many days. */
  older: (workspace: Workspace, { kind, days }: { readonly kind: RetentionKind; readonly days: number }): number =>
    workspace.store.retention.older(kind, workspace.clock.nowMs() - days * 86_400_000),
  /** What other hours would move. */
  moves: (workspace: Workspace, hours: GivenHours) => movesBy(workspace, hours),
  /** How many records stand in what a rule watches, and for how many of them it would run. */
  existing: (
    workspace: Workspace,
    asked: { readonly ruleId: number | null; readonly document: RuleDocument; readonly passedDays: number },
  ) => standingSize(workspace, asked.ruleId, asked.document, asked.passedDays),
  /** What is planned for somebody. */
  planned: (workspace: Workspace, personId: string) => plannedFor(workspace, personId),
  segmentCounts: (workspace: Workspace, { object, scope }: { readonly object: ObjectKind; readonly scope: Scope }) =>
    segmentCounts(workspace, object, scope),
  previewBulk: (workspace: Workspace, edit: BulkEdit) => previewBulk(workspace, edit),
  /** Writes: asked of the thread that works in bulk, and of no other. */
  makeBulk: (workspace: Workspace, order: BulkOrder) => makeBulk(workspace, order),
  exportSeen: (workspace: Workspace, query: Parameters<typeof exportSeen>[1]) => exportSeen(workspace, query),
  /** Writes: asked of the thread that works in bulk, and of no other. */
  tellActivities: (workspace: Workspace, given: readonly GivenActivity[]) => tellActivities(workspace, given),
  /** The same of a file. */
  tellActivityFile(workspace: Workspace, text: string): ActivitiesTold {
    const { given, refused } = readActivities(workspace, text)
    const told = tellActivities(workspace, given)
    return { ...told, refused: [...refused, ...told.refused].sort((a, b) => a.row - b.row) }
  },
  linkPlan: (workspace: Workspace, by: LinkOrder) => planLinks(workspace, by),
  /** Writes: asked of the thread that works in bulk, and of no other. */
  makeLinks: (workspace: Workspace, order: Parameters<typeof makeLinks>[1]) => makeLinks(workspace, order),
  export: (workspace: Workspace, object: ObjectKind) => exportFile(workspace, object),
  ledger: (workspace: Workspace, query: ListQuery) => listPage(workspace, query),
  /** The same as JSON. */
  ledgerText: (workspace: Workspace, query: ListQuery): string => JSON.stringify(listPage(workspace, query)),
  making: (workspace: Workspace, asked: MakingAsked) => showMaking(workspace, asked),
  scoring: (
    workspace: Workspace,
    { object, card, id }: { readonly object: ObjectKind; readonly card: GivenCard; readonly id: number | null },
  ) => previewCard(workspace, object, card, id),
  fields: (workspace: Workspace, object: ObjectKind) => fieldSheet(workspace, object),
  evidence: (workspace: Workspace, document: RuleDocument) => evidenceFor(workspace, document),
  undoSurvey: (
    workspace: Workspace,
    { ruleId, fromMs, toMs }: { readonly ruleId: number; readonly fromMs: number; readonly toMs: number },
  ) => surveyUndo(workspace, ruleId, fromMs, toMs),
  preflight: (workspace: Workspace, asked: { readonly ruleId: number; readonly document: RuleDocument }) =>
    preflightOf(workspace, asked.ruleId, asked.document),
  preflightAll: (workspace: Workspace, _all: null) => preflightAll(workspace),
  ahead: (workspace: Workspace, query: AheadQuery) => aheadOf(workspace, query),
  /** Counts whatever is ahead of some days, by owner and day. */
  aheadGrid(
    workspace: Workspace,
    {
      fromMs,
      days,
      ruleId,
      scope,
    }: { readonly fromMs: number; readonly days: number; readonly ruleId: number | undefined; readonly scope: Scope },
  ) {
    const ahead = aheadOf(workspace, { fromMs, toMs: fromMs + days * 86_400_000, ruleId, limit: Infinity, scope })
    return { ...aheadGrid(workspace, ahead.lines, fromMs, days, scope), total: ahead.total, more: ahead.more }
  },
  /** Asked of the thread that made it, and of no other. */
  rehearsed: (workspace: Workspace, query: RehearsalQuery) => rehearsalView(workspace, query),
  rehearsedSheet,
  forecast: forecastView,
  cases: (workspace: Workspace, asked: Parameters<typeof runCases>[1]) => runCases(workspace, asked),
  board: (
    workspace: Workspace,
    { pipeline, owner, scope }: { readonly pipeline: string; readonly owner: string | null; readonly scope: Scope },
  ) => board(workspace, pipeline, owner, scope),
}

export type Questions = typeof QUESTIONS
export type QuestionName = keyof Questions
export type Given<K extends QuestionName> = Parameters<Questions[K]>[1]
export type Answer<K extends QuestionName> = ReturnType<Questions[K]>
