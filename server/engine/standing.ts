import type { ObjectKind } from '../../core/records/kinds'
import type { RuleDocument } from '../../core/rules/document'
import { standingGroup, standsOf, type Stands } from '../../core/rules/stands'
import type { RuleJobOrder } from '../store/rule-jobs'
import type { Workspace } from './workspace'

/** Existing records for which a rule may run: those that stand in what its triggers watch, and meet its conditions. */

export type BackfillOrder = Extract<RuleJobOrder, { what: 'backfill' }>

const DAY_MS = 86_400_000
const PAGE = 500

/** What running a rule for existing records means now; `null` where nothing stands in what it watches. */
export function backfillOrder(
  workspace: Workspace,
  document: RuleDocument,
  { passedDays, again }: { readonly passedDays: number; readonly again: boolean },
): BackfillOrder | null {
  const stands = standsOf(document, workspace.catalogue())
  if (stands.length === 0) return null
  const toMs = workspace.clock.nowMs()
  return {
    what: 'backfill',
    object: document.object,
    filter: standingGroup(document.conditions, stands),
    passed: stands.some(({ clock }) => clock !== null)
      ? { document: { ...document, steps: [] }, fromMs: toMs - passedDays * DAY_MS, toMs }
      : null,
    again,
  }
}

/** Records whose moment lay in a span of time, by their numbers. */
export function passedIn(
  workspace: Workspace,
  stands: readonly Stands[],
  { fromMs, toMs }: { readonly fromMs: number; readonly toMs: number },
): ReadonlySet<number> {
  const { world } = workspace
  const found = new Set<number>()
  for (const { clock } of stands) {
    if (!clock) continue
    for (let at = clock.next(world, fromMs); at !== null && at <= toMs; at = clock.next(world, at)) {
      for (let after: number | null = 0; after !== null;) {
        const { starts, last } = clock.due(world, at, after, PAGE)
        for (const { ref } of starts) found.add(ref.id)
        after = last
      }
    }
  }
  return found
}

/** What was found for an order whose span does not move any more; the last few only. */
const passedOf = new WeakMap<Workspace, Map<string, readonly number[]>>()
const KEPT_MOST = 4

/** The numbers of the records of an order behind one of them, in their order: never more than so many. */
export function backfillIds(
  workspace: Workspace,
  { object, filter, passed }: BackfillOrder,
  after: number,
  limit: number,
): readonly number[] {
  const { records } = workspace.store
  const where = (group: NonNullable<BackfillOrder['filter']>, behind: number, most: number): readonly number[] =>
    records.matchingAfter(object, records.where(group, object, workspace.catalogue(), workspace.moment()), behind, most)
  const found = filter ? where(filter, after, limit) : []
  if (!passed) return found
  const known = passedOf.get(workspace) ?? new Map<string, readonly number[]>()
  passedOf.set(workspace, known)
  const key = JSON.stringify(passed)
  let ids = known.get(key)
  if (!ids) {
    const due = passedIn(workspace, standsOf(passed.document, workspace.catalogue()), passed)
    ids =
      due.size === 0 ? [] : where(passed.document.conditions, 0, Number.MAX_SAFE_INTEGER).filter((id) => due.has(id))
    if (known.size >= KEPT_MOST) known.clear()
    known.set(key, ids)
  }
  const both = new Set([...found, ...ids.filter((id) => id > after)])
  return [...both].sort((a, b) => a - b).slice(0, limit)
}

export interface StandingSize {
  /** Which records those are, "in Quoted", one for each trigger; empty where nothing stands in any. */
  readonly says: readonly string[]
  /** Whether a date counts that passed within a span. */
  readonly passed: boolean
  readonly standing: number
  readonly matching: number
  /** Of those that match, so many for which the rule did something before. */
  readonly already: number
}

/** How many stand in what a rule watches, how many of them meet its conditions, and for how many it ran before. */
export function standingSize(
  workspace: Workspace,
  ruleId: number | null,
  document: RuleDocument,
  passedDays: number,
): StandingSize {
  const stands = standsOf(document, workspace.catalogue())
  const order = backfillOrder(workspace, document, { passedDays, again: false })
  const says = [...new Set(stands.map(({ say }) => say))]
  if (!order) return { says, passed: false, standing: 0, matching: 0, already: 0 }
  const everything = Number.MAX_SAFE_INTEGER
  const open: RuleDocument = { ...document, conditions: { ...document.conditions, items: [] } }
  const all = backfillOrder(workspace, open, { passedDays, again: false })
  const ids = backfillIds(workspace, order, 0, everything)
  const went = ruleId === null ? new Set<number>() : workspace.store.runs.wentThrough(ruleId, document.object, null)
  return {
    says,
    passed: order.passed !== null,
    standing: all ? backfillIds(workspace, all, 0, everything).length : 0,
    matching: ids.length,
    already: went.size === 0 ? 0 : ids.filter((id) => went.has(id)).length,
  }
}

/** An order over records that somebody chose, for a rule in whose triggers nothing stands. */
export const chosenOrder = (object: ObjectKind, filter: NonNullable<BackfillOrder['filter']>): BackfillOrder => ({
  what: 'backfill',
  object,
  filter,
  passed: null,
  again: true,
})
