import type { Moment } from '../conditions/moment'
import type { FormulaFault } from '../language/formula-fault'
import type { Value } from '../language/value'
import type { FormulaSubject, Uses } from './build'
import type { FormulaProblem } from './problems'
import type { FeelType, FeelValue } from './types'

/** A formula that reads and fits, ready to be worked out for any record of its kind. */
export interface Formula {
  readonly text: string
  readonly type: FeelType
  readonly uses: Uses
  /** What it comes to; `null` where something it needs is empty, and where something went wrong. */
  value(subject: FormulaSubject, moment: Moment): Value
  /** The same, and what went wrong where nothing came of it. */
  outcome(subject: FormulaSubject, moment: Moment): FormulaOutcome
  /** The value, still as formulas have it. */
  raw(subject: FormulaSubject, moment: Moment): FeelValue
}

export interface FormulaOutcome {
  readonly value: Value
  /** Only where the value is `null`: what a formula makes up for with “if” is no fault. */
  readonly fault: FormulaFault | null
}

export type Compiled =
  { readonly ok: true; readonly formula: Formula } | { readonly ok: false; readonly problem: FormulaProblem }
