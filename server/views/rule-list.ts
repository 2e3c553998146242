import type { Catalogue } from '../../core/fields/catalogue'
import { checkRule } from '../../core/rules/check'
import { doSame, type RuleDocument } from '../../core/rules/document'
import type { TriggerName } from '../../core/rules/triggers'
import { fieldsNamed } from '../../core/rules/uses'
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
  /** Rules that start on the same go by this number, then by age. */
  readonly order: number
  readonly description: string
  readonly folder: string | null
  readonly labels: readonly string[]
  /** Kinds of what starts it. */
  readonly triggers: readonly TriggerName[]
  /** Every field it names, as "deal.amount". */
  readonly fields: readonly string[]
  /** Why its version that runs, or its draft, cannot be read; it does nothing then. */
  readonly unreadable: string | null
  /** It ran far more often than usual and waits for an answer. */
  readonly paused: boolean
  readonly createdBy: string
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
  rule.version !== null && !doSame(rule.version.document, rule.draft)

/** Why a rule, or its draft, cannot be read, with the path; `null` when both can. */
export const problemOf = (rule: StoredRule): string | null =>
  rule.version && rule.version.problem !== null
    ? `Version ${rule.version.number} can’t be read and doesn’t run: ${rule.version.problem}`
    : rule.draftProblem === null
      ? null
      : `The draft can’t be read: ${rule.draftProblem}`

/** What of a line hangs on the words of the rule alone. */
type Said = Pick<
  RuleLine,
  | 'name'
  | 'description'
  | 'folder'
  | 'labels'
  | 'object'
  | 'when'
  | 'onlyIf'
  | 'then'
  | 'triggers'
  | 'fields'
  | 'unpublished'
  | 'problems'
>

const said = new WeakMap<
  Catalogue,
  Map<number, { readonly draft: RuleDocument; readonly versionId: number | null; readonly words: Said }>
>()

/** Saying and checking a rule anew costs a thousand times what looking it up does, and hangs on nothing but these. */
function wordsOf(rule: StoredRule, catalogue: Catalogue): Said {
  const known =
    said.get(catalogue) ??
    new Map<number, { readonly draft: RuleDocument; readonly versionId: number | null; readonly words: Said }>()
  said.set(catalogue, known)
  const found = known.get(rule.id)
  const versionId = rule.version?.id ?? null
  if (found && found.draft === rule.draft && found.versionId === versionId) return found.words
  const words: Said = {
    name: rule.draft.name,
    description: rule.draft.description,
    folder: rule.draft.folder ?? null,
    labels: rule.draft.labels ?? [],
    object: rule.draft.object,
    ...sayRule(rule.draft, catalogue),
    triggers: [...new Set(rule.draft.triggers.map((trigger) => trigger.kind))],
    fields: fieldsNamed(rule.draft),
    unpublished: isUnpublished(rule),
    problems: checkRule(rule.draft, catalogue).length,
  }
  known.set(rule.id, { draft: rule.draft, versionId, words })
  return words
}

/** Every rule as one line: its sentence, its state, and how it has been doing. */
export function ruleLines(workspace: Workspace): readonly RuleLine[] {
  const catalogue = workspace.catalogue()
  const nowMs = workspace.clock.nowMs()
  const lastDay = Math.floor(nowMs / DAY_MS)
  const pulses = workspace.store.runs.pulses(lastDay - PULSE_DAYS + 1)
  return workspace.store.rules.all().map((rule) => {
    const pulse = pulses.get(rule.id)
    const byDay = new Map(pulse?.days)
    return {
      id: rule.id,
      state: rule.state,
      ...wordsOf(rule, catalogue),
      order: rule.order,
      unreadable: problemOf(rule),
      paused: rule.paused !== null,
      version: rule.version?.number ?? null,
      createdBy: catalogue.person(rule.createdBy)?.name ?? rule.createdBy,
      changedBy: catalogue.person(rule.changedBy)?.name ?? rule.changedBy,
      changedAt: rule.changedAt,
      pulse: Array.from({ length: PULSE_DAYS }, (_, i) => byDay.get(lastDay - PULSE_DAYS + 1 + i) ?? 0),
      runs: pulse?.runs ?? 0,
      failed: pulse?.failed ?? 0,
      lastAt: pulse?.lastAt ?? null,
    }
  })
}
