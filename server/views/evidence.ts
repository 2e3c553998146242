import { compileGroup } from '../../core/conditions/compile'
import type { Values } from '../../core/fields/value'
import type { RuleDocument } from '../../core/rules/document'
import { TRIGGERS, TRIGGER_NAMES } from '../../core/rules/triggers'
import type { Workspace } from '../engine/workspace'
import { startedIn30Days } from './started'

const ROWS_MOST = 40

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
  /** The same for each kind of trigger that asks for nothing more, whether the rule has it or not: for choosing between them. */
  readonly kinds: Readonly<Record<string, number>>
}

/** Triggers that are whole as soon as they are chosen. */
const WHOLE = TRIGGER_NAMES.filter((name) => Object.keys(TRIGGERS[name].form).length === 0)

/** What a rule's conditions and triggers come to on the records that are there. Reads only. */
export function evidenceFor(workspace: Workspace, rule: RuleDocument): Evidence {
  const catalogue = workspace.catalogue()
  const { records } = workspace.store
  const moment = workspace.moment()
  const where = records.where(rule.conditions, rule.object, catalogue, moment)
  const { total, matched, near, alone, matching, nearest } = records.survey(rule.object, where, ROWS_MOST)
  const rows = records.readAll(rule.object, matching).map(({ id, values }) => ({ id, values }))
  const group = compileGroup(rule.conditions, rule.object, catalogue)
  // The nearest come first: a list of the first ones found would hide the record that is out by a hair.
  const misses = nearest.flatMap(({ id: missedId, missId }) => {
    const record = records.read({ object: rule.object, id: missedId })
    if (!record) return []
    const { id, values } = record
    const seen = group.explain(workspace.subject(record), moment).find((one) => one.id === missId)
    return [{ id, values, missId, why: seen ? (seen.off ?? (seen.linked ? seen.value : `is ${seen.value}`)) : 'fails a group of conditions' }]
  })

  return {
    total, matched, near, alone: Object.fromEntries(alone), rows, misses, started: startedIn30Days(workspace, rule),
    kinds: startedIn30Days(workspace, { object: rule.object, triggers: WHOLE.map((kind) => ({ id: kind, kind, params: TRIGGERS[kind].start })) }),
  }
}
