import { compileGroup } from '../../core/conditions/compile'
import type { CompiledRule } from '../../core/engine/matcher'
import { BEFORE_ALL, type WaitThen } from '../../core/engine/world'
import type { Catalogue } from '../../core/fields/catalogue'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import type { RecordSnapshot } from '../../core/records/record'
import { fillText, mergeParts } from '../../core/rules/merge'
import { STEPS } from '../../core/rules/steps'
import { stepById, placedSteps } from '../../core/rules/tree'
import { sayTrigger } from '../../core/rules/describe'
import { stepWhenDue } from '../../core/rules/awaited'
import type { RuleDocument, Step } from '../../core/rules/document'
import { withResults } from '../../core/rules/results'
import { addDays, dateAt } from '../../core/time/dates'
import { seesRecord, type Scope } from '../../core/access/scope'
import { fittingAfter } from '../engine/record-list'
import { seesRef } from '../engine/seen'
import type { Workspace } from '../engine/workspace'
import { remembered } from './remembered'
import { plainSentence } from '../../core/language/sentence'
import type { AheadItem } from '../engine/ahead'

export interface AheadLine {
  readonly key: string
  /**
   * `wait`: a run goes on. `task`: a task that was put off. `start`: a date comes. `again`: a recurring moment, for all
   * that match.
   */
  readonly kind: 'wait' | 'task' | 'start' | 'again'
  /** Null for what is waited for however long it takes. */
  readonly dueMs: number | null
  readonly ruleId: number
  readonly ruleName: string
  readonly ref: RecordRef | null
  readonly recordName: string
  readonly ownerId: string | null
  /** What happens then. */
  readonly what: string
  /** For a recurring moment: how many records match now. */
  readonly count: number | null
  readonly runId: number | null
  /** Who put it off, and why. */
  readonly moved: string | null
  readonly item: AheadItem | null
}

export interface AheadQuery {
  readonly fromMs: number
  readonly toMs: number
  readonly ruleId?: number | undefined
  readonly ref?: RecordRef | undefined
  readonly ownerId?: string | undefined
  readonly limit: number
  readonly scope: Scope
}

export interface Ahead {
  /** In the order of their moments. */
  readonly lines: readonly AheadLine[]
  /** How many there are in the period; more than the lines where there are very many. */
  readonly total: number
  /** Whether there may be more than were counted. */
  readonly more: boolean
}

/** So many moments of one trigger are looked at. */
const STARTS_MOST = 2000
const PAGE = 500

/** The catalogue with the results of a rule's steps: made once for a document, which never changes. */
const wholes = new WeakMap<RuleDocument, { readonly plain: Catalogue; readonly whole: Catalogue }>()
function wholeOf(document: RuleDocument, plain: Catalogue): Catalogue {
  const known = wholes.get(document)
  if (known?.plain === plain) return known.whole
  const whole = withResults(document, plain)
  wholes.set(document, { plain, whole })
  return whole
}

/** The words of the first thing that is done behind a step, as they will read for a record. */
function nextWords(
  workspace: Workspace,
  document: RuleDocument,
  stepId: string,
  then: WaitThen,
  record: RecordSnapshot | null,
  scope: Scope,
): string {
  const whole = wholeOf(document, workspace.catalogue())
  const placed = placedSteps(document)
  const found =
    stepId === BEFORE_ALL
      ? placed[0]?.step
      : then !== 'go'
        ? stepById(document.steps, stepId)
        : stepWhenDue(document, stepId)
  const next = placed.find(({ step }) => step.id === found?.id)
  if (!next) return 'the run ends'
  const { title, subject } = next.step.params as { readonly title?: unknown; readonly subject?: unknown }
  const text = typeof title === 'string' ? title : typeof subject === 'string' ? subject : null
  // A message with a stored text, or by phone, has no subject of its own: the whole step says more.
  if (text !== null && text.trim() !== '') {
    const related = (object: ObjectKind) => {
      const other = record ? workspace.world.related(record, object) : null
      return other && seesRecord(scope, other.values) ? other : null
    }
    const said = record
      ? fillText(text, record, related, whole)
      : plainSentence(mergeParts('title', text, { text }, { catalogue: whole, object: next.object }))
    const does = typeof title === 'string' ? 'create task' : next.step.kind === 'sendMessage' ? 'send' : 'notify'
    return `${does} “${said}”`
  }
  return plainSentence(
    STEPS[next.step.kind].sentence(next.step.params, { catalogue: whole, object: next.object }),
  ).replace(/ — .*$/s, '')
}

/** "unless it is done before, ", where something else than its moment may end a wait. */
function unless(step: Step | null | undefined, object: ObjectKind, catalogue: Catalogue): string {
  const awaited = step ? STEPS[step.kind].awaits(step.params, { catalogue, object }) : null
  return awaited === null ? '' : `unless ${awaited} before: `
}

/** What waits and what comes within a period, soonest first. Reads only. */
export function aheadOf(workspace: Workspace, query: AheadQuery): Ahead {
  const { waits, runs, rules, records } = workspace.store
  const catalogue = workspace.catalogue()
  const lines: AheadLine[] = []
  const ownerOf = (ref: RecordRef): string | null => {
    const owner = records.read(ref)?.values.owner
    return typeof owner === 'string' ? owner : null
  }
  const mayShow = (ref: RecordRef, owner: string | null): boolean =>
    (query.ownerId === undefined || owner === query.ownerId) && seesRef(workspace, query.scope, ref)
  const waiting = waits.list({
    ruleId: query.ruleId,
    ref: query.ref,
    fromMs: query.fromMs,
    toMs: query.toMs,
    limit: STARTS_MOST,
  })
  const versions = new Map<number, ReturnType<typeof rules.version>>()
  const versionOf = (id: number): ReturnType<typeof rules.version> => {
    const found = versions.has(id) ? (versions.get(id) ?? null) : rules.version(id)
    versions.set(id, found)
    return found
  }
  for (const row of waiting) {
    const ref: RecordRef = { object: row.object, id: row.recordId }
    const owner = ownerOf(ref)
    if (!mayShow(ref, owner)) continue
    const run = runs.get(row.runId)
    const version = run && versionOf(run.versionId)
    const step = version && stepById(version.document.steps, row.stepId)
    lines.push({
      key: `w${row.id}`,
      kind: row.then === 'do' ? 'task' : 'wait',
      dueMs: row.dueMs,
      ruleId: row.ruleId,
      ruleName: version?.document.name ?? '',
      ref,
      recordName: workspace.nameOf(ref),
      ownerId: owner,
      what: version
        ? `${unless(step, row.object, catalogue)}${nextWords(workspace, version.document, row.stepId, row.then, records.read(ref), query.scope)}`
        : '',
      count: null,
      runId: row.runId,
      item: { wait: row.id },
      moved: row.moved
        ? `postponed by ${catalogue.person(row.moved.personId)?.name ?? row.moved.personId}${row.moved.reason === '' ? '' : `: ${row.moved.reason}`}`
        : null,
    })
  }
  let more = waiting.length >= STARTS_MOST
  for (const rule of workspace.matcher().clocked) {
    if (query.ruleId !== undefined && rule.ruleId !== query.ruleId) continue
    if (query.ref && rule.document.object !== query.ref.object) continue
    const found = startsOf(workspace, rule, query)
    more ||= found.more
    for (const line of found.lines)
      if (line.ref === null ? query.ownerId === undefined : mayShow(line.ref, line.ownerId)) lines.push(line)
  }
  const sorted = lines.sort(
    (a, b) => (a.dueMs ?? Infinity) - (b.dueMs ?? Infinity) || a.key.localeCompare(b.key, 'en', { numeric: true }),
  )
  return { lines: sorted.slice(0, query.limit), total: sorted.length, more }
}

/** The moments that triggers of one rule have in a period, of records that meet its conditions now. */
function startsOf(
  workspace: Workspace,
  rule: CompiledRule,
  { fromMs, toMs, ref: only, scope }: AheadQuery,
): { readonly lines: readonly AheadLine[]; readonly more: boolean } {
  const { store } = workspace
  const world = remembered(workspace.world)
  const { document, ruleId } = rule
  const moment = workspace.moment()
  const conditions = compileGroup(document.conditions, document.object, workspace.catalogue())
  const own = only ? store.records.read(only) : null
  if (only && !own) return { lines: [], more: false }
  const lines: AheadLine[] = []
  let looked = 0
  const what = (record: RecordSnapshot | null): string =>
    nextWords(workspace, document, BEFORE_ALL, 'go', record, scope)
  /** How many records match now: the same at each moment of a recurring trigger. */
  let matching: number | null = null
  const countMatching = (): number =>
    (matching ??=
      scope === null
        ? store.records.counted(
            document.object,
            store.records.where(document.conditions, document.object, workspace.catalogue(), moment),
          ).count
        : fittingAfter(
            workspace,
            { object: document.object, filter: document.conditions, scope },
            0,
            Number.MAX_SAFE_INTEGER,
          ).length)
  for (const { triggerId, trigger } of rule.clocks) {
    const kind = document.triggers.find((one) => one.id === triggerId)
    const next = (afterMs: number): number | null =>
      own && trigger.fields.length > 0 ? trigger.momentOf(world, own, afterMs) : trigger.next(world, afterMs)
    // What stands in the past of the query has been worked, or is being worked now.
    let at = next(Math.max(fromMs, workspace.clock.nowMs()) - 1)
    while (at !== null && at < toMs && looked < STARTS_MOST) {
      if (trigger.fields.length === 0) {
        looked++
        if (!own || conditions.test(workspace.subject(own), moment)) {
          lines.push({
            key: `r${ruleId}${triggerId}${at}`,
            kind: 'again',
            dueMs: at,
            ruleId,
            ruleName: document.name,
            ref: null,
            recordName: kind ? sayTrigger(kind, { catalogue: workspace.catalogue(), object: document.object }) : '',
            ownerId: null,
            what: what(null),
            count: document.object === 'none' ? null : countMatching(),
            runId: null,
            moved: null,
            item: null,
          })
        }
        if (own) break
      } else {
        for (let after: number | null = 0; after !== null && looked < STARTS_MOST;) {
          const due: ReturnType<typeof trigger.due> = trigger.due(world, at, after, PAGE)
          for (const { ref, occurrence, coming } of due.starts) {
            looked++
            if (own && ref.id !== own.id) continue
            const record = store.records.read(ref)
            if (
              !record ||
              !conditions.test(workspace.subject(record), moment) ||
              store.runs.has(ruleId, ref, occurrence)
            )
              continue
            const owner = record.values.owner
            lines.push({
              key: `d${ruleId}${triggerId}${ref.id}${at}`,
              kind: 'start',
              dueMs: at,
              ruleId,
              ruleName: document.name,
              ref,
              recordName: String(record.values.name ?? ''),
              ownerId: typeof owner === 'string' ? owner : null,
              what: `${what(record)} (${coming})`,
              count: null,
              runId: null,
              moved: null,
              item: { rule: ruleId, trigger: triggerId, ref, occurrence, dueMs: at },
            })
          }
          after = due.last
        }
      }
      at = next(at)
    }
  }
  return { lines, more: looked >= STARTS_MOST }
}

export interface AheadGrid {
  readonly days: readonly string[]
  /** Owners with anything ahead, and nobody last. */
  readonly owners: readonly { readonly id: string | null; readonly counts: readonly number[] }[]
  /** Tasks that are open already, by owner and day on which they are due. */
  readonly tasks: readonly { readonly id: string; readonly counts: readonly number[] }[]
}

/** How much is ahead, by owner and day, in the workspace's zone. */
export function aheadGrid(
  workspace: Workspace,
  lines: readonly AheadLine[],
  fromMs: number,
  dayCount: number,
  scope: Scope,
): AheadGrid {
  const { zone } = workspace.catalogue().workspace
  const first = dateAt(fromMs, zone)
  const days = Array.from({ length: dayCount }, (_, i) => addDays(first, i))
  const at = new Map(days.map((day, i) => [day, i]))
  const byOwner = new Map<string | null, number[]>()
  const add = (owner: string | null, day: string, n: number): void => {
    const i = at.get(day)
    if (i === undefined) return
    const counts = byOwner.get(owner) ?? days.map(() => 0)
    counts[i] = (counts[i] ?? 0) + n
    byOwner.set(owner, counts)
  }
  for (const line of lines) if (line.dueMs !== null) add(line.ownerId, dateAt(line.dueMs, zone), line.count ?? 1)
  const open = new Map<string, number[]>()
  for (const { personId, due, n } of workspace.store.tasks.openByDay(first, days.at(-1) ?? first)) {
    if (scope !== null && !scope.has(personId)) continue
    const counts = open.get(personId) ?? days.map(() => 0)
    counts[at.get(due) ?? 0] = n
    open.set(personId, counts)
  }
  const name = (id: string | null): string => (id === null ? '￿' : (workspace.catalogue().person(id)?.name ?? id))
  return {
    days,
    owners: [...byOwner]
      .map(([id, counts]) => ({ id, counts }))
      .sort((a, b) => name(a.id).localeCompare(name(b.id), 'en')),
    tasks: [...open].map(([id, counts]) => ({ id, counts })).sort((a, b) => name(a.id).localeCompare(name(b.id), 'en')),
  }
}
