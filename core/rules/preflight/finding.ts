import type { Group } from '../../conditions/document'
import type { Catalogue } from '../../fields/catalogue'
import type { FormulaSubject } from '../../formulas/formula'
import type { ObjectKind } from '../../records/kinds'
import type { Finding } from '../check'
import type { RuleDocument } from '../document'
import type { Moment } from '../../conditions/moment'

/** What preflight finds by reading rules, before they run. */

/** `grave` will go wrong, `likely` is hardly meant, `note` is good to know. */
export const SEVERITIES = ['error', 'warning', 'info'] as const
export type Severity = (typeof SEVERITIES)[number]

export interface Fix {
  /** What it does, in words: "take the condition out". */
  readonly say: string
  readonly rule: RuleDocument
}

export interface Noted {
  readonly kind: string
  readonly severity: Severity
  readonly ruleId: number
  /** The words it is about. */
  readonly part: Finding['part']
  readonly id: string
  readonly param: string
  /** What is wrong. */
  readonly text: string
  /** Why, with a record of hers as an example where there is one. */
  readonly why: string
  readonly fix: Fix | null
  /** The other rules that have to do with it. */
  readonly others: readonly number[]
  /** What it is told apart by: it stays the same while the finding does, whatever its figures. */
  readonly key: string
}

/** A rule as preflight looks at it. */
export interface Reviewed {
  readonly ruleId: number
  readonly order: number
  /** Whether it runs now; what does not run can neither start nor fight anything. */
  readonly on: boolean
  readonly document: RuleDocument
  /** The version that was published last, where what is looked at may be another one. */
  readonly published?: RuleDocument | null
}

export interface Example {
  readonly id: number
  readonly name: string
}

/** A record to try something on. */
export interface Sample extends Example, FormulaSubject {}

/** What preflight asks of the records that are there. Answers are those of this moment. */
export interface PreflightData {
  /** How many records of a kind a group holds for, with the first of them. */
  count(object: ObjectKind, group: Group): { readonly count: number; readonly first: Example | null }
  /** Of the records a group holds for: how many got the value of a field only after they had been created. */
  filledLater(
    object: ObjectKind,
    field: string,
    group: Group,
  ): { readonly total: number; readonly count: number; readonly first: Example | null }
  /** Some of the records that a group holds for. */
  sample(object: ObjectKind, group: Group, most: number): readonly Sample[]
  /** How often a whole-record trigger would have started in 30 days. */
  started(object: ObjectKind, kind: 'created' | 'changed' | 'createdOrChanged'): number
}

export interface PreflightContext {
  readonly catalogue: Catalogue
  readonly moment: Moment
  readonly data: PreflightData
  /** All rules that run or are looked at, this one included. */
  readonly rules: readonly Reviewed[]
}

/** One kind of finding: everything about it in its file. */
export interface PreflightSpec<K extends string = string> {
  readonly kind: K
  look(rule: Reviewed, context: PreflightContext): readonly Noted[]
}

export const definePreflight = <const K extends string>(spec: PreflightSpec<K>): PreflightSpec<K> => Object.freeze(spec)

type Given = Pick<Noted, 'severity' | 'part' | 'id' | 'param' | 'text' | 'why'> &
  Partial<Pick<Noted, 'fix' | 'others'>> & { /** What tells it apart beside its place. */ readonly about?: string }

export const noted = (
  kind: string,
  rule: Reviewed,
  { about = '', fix = null, others = [], ...given }: Given,
): Noted => ({
  kind,
  ruleId: rule.ruleId,
  fix,
  others,
  ...given,
  key: [kind, given.part, given.id, given.param, ...[...others].sort((a, b) => a - b), about].join(' '),
})
