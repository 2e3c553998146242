import { sayProblem } from '../../core/language/problems'
import { OBJECTS, type RecordRef } from '../../core/records/kinds'
import { expectationsOf, runCase, withCatalogue, type CaseOutcome } from '../../core/rehearsal/case'
import { readCase, type Case } from '../../core/rehearsal/case-file'
import { isLinkable } from '../../core/records/record'
import type { RuleDocument } from '../../core/rules/document'
import { addDays, dateAt, localMinute } from '../../core/time/dates'
import { instantAt } from '../../core/time/moments'
import type { KeptCase } from '../store/cases'
import type { Assumed, RuleToRehearse } from './rehearsal'
import { RefusedError, type Workspace } from './workspace'
import { refuse } from './refuse'

/** Rehearsals that are kept: on copies of a few records as they were, with what is expected of them. */

export interface CaseOrder {
  readonly name: string
  readonly rules: readonly RuleToRehearse[]
  readonly ids: readonly number[]
  readonly days: number
  readonly script: readonly Assumed[]
}

/** A case is looked through by people, and carries its records with it. */
const RECORDS_MOST = 300
/** Records two links away may be asked about by conditions. */
const LINKS_DEEP = 2

const nameOf = ({ object, id }: RecordRef): string => `${object} ${id}`

/** What a case came to by the rules as they are now. */
export interface CaseRun {
  readonly id: number
  readonly name: string
  /** What was expected and did not come, or came and was not expected; or why it could not be run. */
  readonly wrong: readonly string[]
  readonly starts: number
  readonly tasks: number
}

/** Keeps records as they are now, with what is linked to them, and what rules come to on them from now on. */
export function keepCase(
  workspace: Workspace,
  { name, rules, ids, days, script }: CaseOrder,
  personId: string,
): number {
  const { store } = workspace
  const { zone } = workspace.catalogue().workspace
  const object = rules[0]?.document.object ?? 'deal'
  const taken = new Map<string, { readonly ref: RecordRef; readonly values: Record<string, unknown> }>()
  const links = new Map<string, { from: string; to: string; main: boolean }>()
  const take = (ref: RecordRef, deep: number): void => {
    const record = store.records.read(ref)
    if (!record) throw refuse('ids', { code: 'recordGone', object: ref.object, id: ref.id })
    if (!taken.has(nameOf(ref)))
      taken.set(nameOf(ref), {
        ref,
        values: Object.fromEntries(Object.entries(record.values).filter(([, value]) => value !== null)),
      })
    if (taken.size > RECORDS_MOST) throw refuse('ids', { code: 'tooManyLinked', most: RECORDS_MOST })
    if (deep === 0) return
    for (const of of OBJECTS) {
      for (const { id } of store.links.linked(ref, of)) {
        const other = { object: of, id }
        const [from, to] = isLinkable(ref, other) ? [ref, other] : [other, ref]
        // Which of its links is the main one is known from the side that the link goes out from.
        links.set(`${nameOf(from)} ${nameOf(to)}`, {
          from: nameOf(from),
          to: nameOf(to),
          main: store.links.linked(from, to.object).some((one) => one.id === to.id && one.main),
        })
        take(other, deep - 1)
      }
    }
  }
  for (const id of ids) take({ object, id }, LINKS_DEEP)
  const startMs = Math.floor(workspace.clock.nowMs() / 60_000) * 60_000
  const today = dateAt(startMs, zone)
  const bare: Case = {
    format: 1,
    name,
    zone,
    start: localMinute(startMs, zone),
    until: localMinute(startMs + days * 86_400_000, zone),
    workdays: [1, 2, 3, 4, 5],
    hours: { opens: '9:00', closes: '17:00' },
    holidays: [],
    people: [],
    fields: [],
    records: [...taken.values()].map(({ ref, values }) => ({
      record: nameOf(ref),
      values: values as Case['records'][number]['values'],
    })),
    links: [...links.values()],
    only: ids.map((id) => `${object} ${id}`),
    rules: rules.map((rule) => rule.document),
    script: script.flatMap(({ day, minute, id, values, does }) =>
      (id === null ? ids : [id]).flatMap((one): Case['script'] => {
        const at = localMinute(Math.max(startMs, instantAt(addDays(today, day), minute, zone)), zone)
        if (!does) return [{ at, record: `${object} ${one}`, set: { ...values } }]
        const { by, kind, about } = does
        const doers =
          by === object ? [one] : workspace.world.linked({ object, id: one }, by).map(({ record }) => record.id)
        return doers.map((who) => ({ at, record: `${by} ${who}`, does: kind, about }))
      }),
    ),
  }
  const ran = runCase(bare, workspace.catalogue())
  if (!ran.ok) throw new RefusedError([{ path: 'case', problem: ran.problem }])
  return workspace.db.atomically(() =>
    store.cases.add({
      name,
      ruleIds: rules.map((rule) => rule.ruleId),
      document: { ...bare, expect: expectationsOf(bare, ran.value) },
      changedBy: personId,
      changedAt: workspace.clock.nowMs(),
    }),
  )
}

/** The case with the rules as they are written now; one of them may be given as it is being edited. */
function current(
  workspace: Workspace,
  { ruleIds, document }: KeptCase,
  edited: ReadonlyMap<number, RuleDocument>,
): Case | string {
  const rules: RuleDocument[] = []
  for (const id of ruleIds) {
    const rule = edited.get(id) ?? workspace.store.rules.get(id)?.draft
    if (!rule) return `Rule ${id} no longer exists`
    rules.push(rule)
  }
  return { ...document, rules }
}

/** Runs a case by the rules as they are written now. */
export function outcomeOf(
  workspace: Workspace,
  kept: KeptCase,
  edited: ReadonlyMap<number, RuleDocument> = new Map(),
): CaseOutcome | string {
  const given = current(workspace, kept, edited)
  if (typeof given === 'string') return given
  const ran = runCase(given, workspace.catalogue())
  return ran.ok ? ran.value : sayProblem(ran.problem)
}

/** Runs the cases of a rule, or all of them. */
export function runCases(
  workspace: Workspace,
  { ruleId, document }: { readonly ruleId: number | null; readonly document: RuleDocument | null },
): readonly CaseRun[] {
  const edited = new Map(ruleId !== null && document ? [[ruleId, document]] : [])
  return workspace.store.cases.list(ruleId).map((kept): CaseRun => {
    const outcome = kept.problem ?? outcomeOf(workspace, kept, edited)
    if (typeof outcome === 'string')
      return { id: kept.id, name: kept.name, wrong: [`Can’t run: ${outcome}`], starts: 0, tasks: 0 }
    return {
      id: kept.id,
      name: kept.name,
      wrong: outcome.wrong,
      starts: outcome.result.runs.length,
      tasks: outcome.result.tasks.length,
    }
  })
}

/** From now on what comes by the rules as they are written now is what is expected. */
export function acceptCase(workspace: Workspace, kept: KeptCase, personId: string): void {
  const outcome = outcomeOf(workspace, kept)
  if (typeof outcome === 'string') throw refuse('case', { code: 'shape', at: '', said: outcome })
  workspace.db.atomically(() =>
    workspace.store.cases.change(kept.id, {
      name: kept.name,
      document: { ...kept.document, expect: expectationsOf(kept.document, outcome) },
      changedBy: personId,
      changedAt: workspace.clock.nowMs(),
    }),
  )
}

/**
 * Puts a text in place of a case: another name, other records, moments or expectations. Its rules stay those of the
 * workspace.
 */
export function rewriteCase(workspace: Workspace, kept: KeptCase, text: string, personId: string): void {
  const read = readCase(text, kept.document.rules)
  if (!read.ok) throw new RefusedError([{ path: 'text', problem: read.problem }])
  const ran = runCase(read.value, workspace.catalogue())
  if (!ran.ok) throw new RefusedError([{ path: 'text', problem: ran.problem }])
  const { name } = read.value
  workspace.db.atomically(() =>
    workspace.store.cases.change(kept.id, {
      name,
      document: read.value,
      changedBy: personId,
      changedAt: workspace.clock.nowMs(),
    }),
  )
}

/** The case as a file that the command line runs by itself. */
export function caseFile(workspace: Workspace, kept: KeptCase): Case {
  const given = current(workspace, kept, new Map())
  return withCatalogue(typeof given === 'string' ? kept.document : given, workspace.catalogue())
}
