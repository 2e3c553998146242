import type { InjectionKey } from 'vue'
import type { GroupMode } from '#core/conditions/document'
import type { TriggerName } from '#core/rules/triggers'
import type { DecisionTable } from '#core/tables/table'
import type { Value } from '#core/language/value'
import type { Evidence } from '~~/server/views/evidence'

/** A finding as it stands beside the words it is about. */
export interface Pinned {
  readonly text: string
  /** The classes of its colours. */
  readonly tone: string
}

/** A kind of trigger as it is offered. */
export interface TriggerOption {
  readonly value: TriggerName
  readonly label: string
  readonly words: string
  /** How often it would have started lately, in words. */
  readonly hint: string
}

/** What the lines of a rule's sheet share, however deep they stand. */
export interface SheetContext {
  readonly editable: boolean
  readonly openKey: string | null
  readonly bad: Readonly<Record<string, readonly string[]>>
  readonly missId: string | null
  readonly evidence: Evidence | null
  /** Ways that are folded away, by their ids. */
  readonly folded: ReadonlySet<string>
  /** The ways that the looked-at record goes; `null` while all are shown. */
  readonly gone: ReadonlySet<string> | null
  findingsOf(id: string): readonly Pinned[]
  edit(path: string, param: string): void
  open(path: string, param: string): void
  remove(path: string): void
  shift(stepId: string, by: -1 | 1): void
  duplicate(stepId: string): void
  setMode(groupId: string, mode: GroupMode): void
  addGroup(groupId: string): void
  fold(branchId: string): void
  addBranch(stepId: string, value?: Value): void
  removeBranch(branchId: string): void
  shiftBranch(branchId: string, by: -1 | 1): void
  setTable(stepId: string, table: DecisionTable): void
  /** Whether a result of a step is used further down. */
  usesResult(stepId: string, key: string): boolean
  /** The step of a table that was just added and does not stand on the sheet yet. */
  readonly newTable: string | null
  /** It stands there. */
  tableStands(): void
  /** The name of the rule. */
  readonly name: string
}

export const SHEET: InjectionKey<SheetContext> = Symbol('sheet')

/** How what is pinned to a word is coloured. */
export const TONES = {
  error: 'bg-brick-t text-brick',
  warning: 'bg-saffron-t text-saffron',
  info: 'bg-slate-t text-slate',
} as const
