import { compileGroup } from '../../core/conditions/compile'
import type { Values } from '../../core/fields/value'
import type { RuleDocument } from '../../core/rules/document'
import { TRIGGERS } from '../../core/rules/triggers'
import type { Workspace } from '../engine/workspace'

const ROWS_MOST = 40
const PAST_DAYS = 30

export interface Evidence {
  readonly total: number
  readonly matched: number
  /** How many records fail exactly one thing. */
  readonly near: number
  /** How many records each condition lets through by itself, by its id. */
  readonly alone: Readonly<Record<string, number>>
  readonly rows: readonly { readonly id: number; readonly values: Values }[]
  readonly misses: readonly { readonly id: number; readonly values: Values; readonly missId: string; readonly why: string }[]
  /** How often each trigger would have started the rule in the last 30 days of real history, by its id. */
  readonly started: Readonly<Record<string, number>>
}

const byGap = (a: { readonly gap: number; readonly id: number }, b: { readonly gap: number; readonly id: number }): number => (a.gap === b.gap ? a.id - b.id : a.gap - b.gap)

/** What a rule's conditions and triggers come to on the records that are there. Reads only. */
export function evidenceFor(workspace: Workspace, rule: RuleDocument): Evidence {
  const catalogue = workspace.catalogue()
  const { records, events } = workspace.store
  const moment = workspace.moment()
  const group = compileGroup(rule.conditions, rule.object, catalogue)
  const shown = rule.object === 'deal' ? ['name', 'amount', 'currency', 'stage', 'owner'] : ['name', 'owner']
  const keys = [...new Set([...shown, ...group.fields])]
  const alone: Record<string, number> = Object.fromEntries(group.conditions.map((condition) => [condition.id, 0]))
  const rows: { id: number; values: Values }[] = []
  const misses: { id: number; values: Values; missId: string; why: string; gap: number }[] = []
  let [total, matched, near] = [0, 0, 0]
  for (const record of records.scan(rule.object, keys)) {
    total++
    group.each(record.values, moment).forEach((holds, i) => {
      const id = group.conditions[i]?.id
      if (holds && id !== undefined) alone[id] = (alone[id] ?? 0) + 1
    })
    if (group.test(record.values, moment)) {
      matched++
      if (rows.length < ROWS_MOST) rows.push({ id: record.id, values: record.values })
      continue
    }
    const missId = group.onlyMiss(record.values, moment)
    if (missId === null) continue
    near++
    const seen = group.explain(record.values, moment).find((one) => one.id === missId)
    // The nearest are kept: a list of the first ones found would hide the record that is out by a hair.
    misses.push({ id: record.id, values: record.values, missId, gap: seen?.gap ?? Infinity, why: seen ? (seen.off ?? `is ${seen.value}`) : 'fails a group of conditions' })
    if (misses.length > 4 * ROWS_MOST) {
      misses.sort(byGap)
      misses.length = ROWS_MOST
    }
  }

  const names = { catalogue, object: rule.object }
  const tests = rule.triggers.map((trigger) => ({ id: trigger.id, test: TRIGGERS[trigger.kind].compile(trigger.params, names) }))
  const started: Record<string, number> = Object.fromEntries(tests.map(({ id }) => [id, 0]))
  if (tests.length > 0) {
    for (const event of events.since(rule.object, moment.nowMs - PAST_DAYS * 86_400_000)) {
      for (const { id, test } of tests) if (test(event)) started[id] = (started[id] ?? 0) + 1
    }
  }
  return { total, matched, near, alone, rows, misses: misses.sort(byGap).slice(0, ROWS_MOST).map(({ gap: _gap, ...miss }) => miss), started }
}
