import { figure } from './counts'

/** What went wrong while a formula was worked out: nothing is empty because of it. */
export type FormulaFault =
  | { readonly code: 'dividedByZero' }
  | { readonly code: 'outOfRange' }
  | { readonly code: 'tooLong'; readonly most: number }
  /** A function that makes nothing of what it was given. */
  | { readonly code: 'unfit'; readonly name: string; readonly given: string }

/** "it divides by zero", behind "the formula failed: ". */
export function sayFault(fault: FormulaFault): string {
  switch (fault.code) {
    case 'dividedByZero':
      return 'it divides by zero'
    case 'outOfRange':
      return 'the result is out of range'
    case 'tooLong':
      return `it processes more than ${figure(fault.most)} values`
    case 'unfit':
      return `${fault.name} can’t use ${fault.given}`
  }
}
