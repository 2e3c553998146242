import type { FeelType } from './types'
import { sayType } from './types'

/** What keeps a formula from being worked out. `from` and `to` are UTF-16 positions in its text, `to` not included. */
export interface FormulaProblem {
  readonly from: number
  readonly to: number
  readonly text: string
}

/** Carries problems out of the passes that build a formula; never leaves `core/formulas`. */
export class BrokenFormula extends Error {
  constructor(readonly problem: FormulaProblem) {
    super(problem.text)
  }
}

export interface Span {
  readonly from: number
  readonly to: number
}

/** Refuses a part of a formula. */
export function refuse({ from, to }: Span, text: string): never {
  throw new BrokenFormula({ from, to, text })
}

export const wants = (at: Span, what: string, wanted: string, came: FeelType): never =>
  refuse(at, `${what} needs ${wanted}, but this is ${sayType(came)}.`)
