import { z } from 'zod'
import type { Names } from '../fields/names'
import type { Category } from '../language/category'
import type { FailReason } from '../language/reasons'
import { sayProblem, type PlacedProblem } from '../language/problems'
import { RULE_OBJECTS, type RecordRef } from '../records/kinds'
import type { Cause, ChangeEvent, FieldChange } from '../records/record'
import type { DeliveryPort, RecordPort } from '../world/ports'
import type { Undoing } from './undoing'

/**
 * What a step wants done and what came of it. Steps only ask; the engine carries out what they asked for, in the run's
 * own commit. Everything about one kind of effect stands in its file: doing it, saying it, taking it back.
 */

/** Where an effect is carried out. */
export interface Place {
  readonly world: RecordPort & DeliveryPort
  /** The change that the run is about. */
  readonly event: ChangeEvent
  readonly ruleId: number
  readonly runId: number
  readonly stepId: string
  /** The record that the step works on. */
  readonly record: RecordRef
  /** Why the run is there, in words. */
  readonly because: string
  readonly cause: Cause
  /** The record that an effect of the same step made before. */
  readonly made: RecordRef | null
  /** Ends what waits for a record in other runs than this one; answers how many. */
  endWaits(ref: RecordRef, because: string): number
}

/** Whom and what it concerns, for those who look on. */
export interface Summary {
  /** Values of a record that it changed; of the one that the step worked on, where none is named. */
  readonly changed?: { readonly ref: RecordRef | null; readonly changes: readonly FieldChange[] }
  readonly records?: readonly RecordRef[]
  /** A record that it made. */
  readonly made?: RecordRef
  readonly task?: { readonly id: number; readonly assigneeId: string | null; readonly queue: string | null }
  /** The key of a request to a service outside. */
  readonly request?: string
  /** Who was told in the app. */
  readonly noticed?: string
  /** Whether what is ahead has changed. */
  readonly ahead?: boolean
}

export interface EffectSpec<K extends string, W extends object, L extends object> {
  readonly kind: K
  /** Its mark in the journal. */
  readonly category: Category
  /** What the journal keeps of it. */
  readonly left: z.ZodType<L>
  /** The records without which it cannot be done. */
  needs(want: W): readonly RecordRef[]
  /** Does it; answers what is left of it, `null` where nothing had to be done, or why it failed. */
  apply(place: Place, want: W): L | null | { readonly fails: FailReason }
  /** "task for Rosa Amara, due 26 Nov: “Ring …”", for journal, rail, rehearsal and notifications. */
  describe(left: L, names: Names, today: string): string
  /** Puts into the plan how it is taken back, or why it stays. */
  undo(left: L, undoing: Undoing): void
  summarise(left: L): Summary
}

export const defineEffect = <const K extends string, W extends object, L extends object>(
  spec: EffectSpec<K, W, L>,
): EffectSpec<K, W, L> => Object.freeze(spec)

export const zRef = z.object({ object: z.enum(RULE_OBJECTS), id: z.number() })

/** Values that were refused, as the reason why a step failed. */
export const refused = (problems: readonly PlacedProblem[]): { readonly fails: FailReason } => ({
  fails: { code: 'refused', reason: problems.map(({ problem }) => sayProblem(problem)).join(' ') },
})
