import { compileGroup } from '../../core/conditions/compile'
import { isEmpty, type Values } from '../../core/language/value'
import type { RuleDocument } from '../../core/rules/document'
import { TRIGGERS, TRIGGER_NAMES } from '../../core/rules/triggers'
import type { Workspace } from '../engine/workspace'
import { countedInPart, startedIn30Days } from './started'

const ROWS_MOST = 40

export interface Evidence {
  readonly total: number
  readonly matched: number
  /** How many records fail exactly one thing. */
  readonly near: number
  /** How many records each condition lets through by itself, by its id. */
  readonly alone: Readonly<Record<string, number>>
  readonly rows: readonly { readonly id: number; readonly values: Values }[]
  readonly misses: readonly {
    readonly id: number
    readonly values: Values
    readonly missId: string
    readonly why: string
  }[]
  /** Triggers of which there may have been more than is counted. */
  readonly inPart: readonly string[]
  /** How often each trigger would have started the rule in the last 30 days of real history, by its id. */
  readonly started: Readonly<Record<string, number>>
  /**
   * The same for each kind of trigger that asks for nothing more, whether the rule has it or not: for choosing between
   * them.
   */
  readonly kinds: Readonly<Record<string, number>>
  /** For each trigger that goes by the clock, by its id: its next moments on real records that match now. */
  readonly clocks: Readonly<Record<string, ClockEvidence>>
}

export interface ClockEvidence {
  /** The soonest; of a recurring one without a record, with how many match now. */
  readonly moments: readonly {
    readonly atMs: number
    readonly id: number | null
    readonly name: string
    readonly count: number | null
  }[]
  /** Of so many that match, how many have a moment ahead, have it behind them, or hold no date. */
  readonly looked: number
  readonly coming: number
  readonly passed: number
  readonly empty: number
}

const MOMENTS_MOST = 10
const AGAIN_MOST = 5
/** So many moments are looked at for records that match; so many records for where they stand. */
const TRIES = 150
const LOOKED_MOST = 2000

function clockEvidence(
  workspace: Workspace,
  rule: RuleDocument,
  matched: number,
  ids: readonly number[],
): Evidence['clocks'] {
  const { world } = workspace
  const catalogue = workspace.catalogue()
  const moment = workspace.moment()
  const group = compileGroup(rule.conditions, rule.object, catalogue)
  const found: Record<string, ClockEvidence> = {}
  for (const one of rule.triggers) {
    const clock = TRIGGERS[one.kind].clock(one.params, { catalogue, object: rule.object }, rule.conditions)
    if (!clock || TRIGGERS[one.kind].check(one.params, { catalogue, object: rule.object }).length > 0) continue
    const moments: ClockEvidence['moments'][number][] = []
    const again = clock.fields.length === 0
    let at = clock.next(world, moment.nowMs)
    for (let i = 0; at !== null && i < TRIES && moments.length < (again ? AGAIN_MOST : MOMENTS_MOST); i++) {
      if (again) moments.push({ atMs: at, id: null, name: '', count: matched })
      else {
        for (const { ref } of clock.due(world, at, 0, 200).starts) {
          const record = world.read(ref)
          if (record && moments.length < MOMENTS_MOST && group.test(workspace.subject(record), moment))
            moments.push({ atMs: at, id: ref.id, name: String(record.values.name ?? ''), count: null })
        }
      }
      at = clock.next(world, at)
    }
    const [field = ''] = clock.fields
    let [coming, empty] = [0, 0]
    if (!again) {
      for (const id of ids) {
        const record = world.read({ object: rule.object, id })
        if (!record || isEmpty(record.values[field] ?? null)) empty++
        else if (clock.momentOf(world, record, moment.nowMs) !== null) coming++
      }
    }
    found[one.id] = {
      moments,
      looked: again ? 0 : ids.length,
      coming,
      empty,
      passed: again ? 0 : ids.length - coming - empty,
    }
  }
  return found
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
    return [
      {
        id,
        values,
        missId,
        why: seen
          ? seen.linked
            ? seen.value
            : seen.off
              ? `${seen.value}: ${seen.off}`
              : seen.value
          : 'a group of conditions is not true',
      },
    ]
  })

  const clocked = rule.triggers.some(
    (one) => TRIGGERS[one.kind].clock(one.params, { catalogue, object: rule.object }, rule.conditions) !== null,
  )
  return {
    clocks: clocked
      ? clockEvidence(workspace, rule, matched, records.matchingAfter(rule.object, where, 0, LOOKED_MOST))
      : {},
    total,
    matched,
    near,
    alone: Object.fromEntries(alone),
    rows,
    misses,
    started: startedIn30Days(workspace, rule),
    inPart: countedInPart(workspace, rule),
    kinds: startedIn30Days(workspace, {
      object: rule.object,
      triggers: WHOLE.map((kind) => ({ id: kind, kind, params: TRIGGERS[kind].start })),
    }),
  }
}
