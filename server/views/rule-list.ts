import { checkRule } from '../../core/rules/check'
import { sayRule } from '../../core/rules/describe'
import type { ObjectKind } from '../../core/records/kinds'
import type { Workspace } from '../engine/workspace'
import type { RuleState, StoredRule } from '../store/rules'

const PULSE_DAYS = 30
const DAY_MS = 86_400_000

export interface RuleLine {
  readonly id: number
  readonly state: RuleState
  readonly name: string
  readonly object: ObjectKind
  readonly when: string
  readonly onlyIf: string
  readonly then: readonly string[]
  readonly order: number
  readonly version: number | null
  /** Whether the draft says something else than the version that runs. */
  readonly unpublished: boolean
  readonly problems: number
  readonly changedBy: string
  readonly changedAt: number
  /** Runs a day over the last 30 days, oldest first. */
  readonly pulse: readonly number[]
  readonly runs: number
  readonly failed: number
  readonly lastAt: number | null
}

export const isUnpublished = (rule: StoredRule): boolean =>
  rule.version !== null && JSON.stringify(rule.version.document) !== JSON.stringify(rule.draft)

/** Every rule as one line: its sentence, its state, and how it has been doing. */
export function ruleLines(workspace: Workspace): readonly RuleLine[] {
  const catalogue = workspace.catalogue()
  const nowMs = workspace.clock.nowMs()
  const pulses = workspace.store.runs.pulses(nowMs - PULSE_DAYS * DAY_MS)
  const lastDay = Math.floor(nowMs / DAY_MS)
  return workspace.store.rules.all().map((rule) => {
    const pulse = pulses.get(rule.id)
    const byDay = new Map(pulse?.days)
    return {
      id: rule.id, state: rule.state, name: rule.draft.name, object: rule.draft.object, ...sayRule(rule.draft, catalogue), order: rule.order,
      version: rule.version?.number ?? null, unpublished: isUnpublished(rule), problems: checkRule(rule.draft, catalogue).length,
      changedBy: catalogue.person(rule.changedBy)?.name ?? rule.changedBy, changedAt: rule.changedAt,
      pulse: Array.from({ length: PULSE_DAYS }, (_, i) => byDay.get(lastDay - PULSE_DAYS + 1 + i) ?? 0),
      runs: pulse?.runs ?? 0, failed: pulse?.failed ?? 0, lastAt: pulse?.lastAt ?? null,
    }
  })
}
