import type { SyntaxNode } from '@lezer/common'
import type { Catalogue } from '../fields/catalogue'
import type { ObjectKind } from '../records/kinds'
import type { Span } from './problems'
import type { FormulaFault } from '../language/formula-fault'
import type { FeelRecord, FeelType, FeelValue } from './types'

/** What a formula is worked out against. */
export interface FormulaSubject {
  readonly values: { readonly [key: string]: unknown }
  /** The linked records of a kind, the main one first. */
  linked(object: ObjectKind): readonly FeelRecord[]
}

export interface Env {
  readonly subject: FormulaSubject
  /** Days since 1970-01-01 of the day it is in `zone`. */
  readonly today: number
  readonly nowMs: number
  readonly zone: string
  /** What `for`, `some`, `every` and filters go through just now, by depth. */
  readonly locals: FeelValue[]
  /** How many more times something may be gone through. */
  left: number
  /** The first thing that could not be worked out although everything it needs was there; `null` while all could. */
  fault: FormulaFault | null
}

/** Notes what went wrong; what comes of it is nothing. */
export function faulty(env: Env, fault: FormulaFault): null {
  env.fault ??= fault
  return null
}

export type Run = (env: Env) => FeelValue

/** A part of a formula, with what it comes to and how. */
export interface Built {
  readonly type: FeelType
  readonly run: Run
  /** For texts and numbers that stand there as such. */
  readonly literal?: string | number
}

/** What a formula looks at, gathered while it is built. */
export interface Uses {
  /** Fields of the record itself. */
  readonly own: Set<string>
  /** Fields of linked records, by their kind; an empty set where only their number matters. */
  readonly linked: Map<ObjectKind, Set<string>>
  today: boolean
  now: boolean
}

export type Scope = (name: string, at: Span) => Built | null

/** What stays the same while one formula is built. */
export interface Building {
  readonly text: string
  readonly object: ObjectKind
  readonly catalogue: Catalogue
  readonly uses: Uses
  /** Builds a part; names are looked up in the scope first. */
  build(node: SyntaxNode, scope: Scope, depth: number): Built
}

export const ITERATIONS_MOST = 10_000

/** Thrown when a formula goes through too much while it is worked out. */
export class FormulaTooLong extends Error {}

/** Counts one more time something is gone through. */
export function step(env: Env): void {
  if (--env.left < 0)
    throw new FormulaTooLong(`The formula processes more than ${ITERATIONS_MOST.toLocaleString('en')} values.`)
}

export const constant = (type: FeelType, value: FeelValue): Built => ({
  type,
  run: () => value,
  ...(typeof value === 'string' || typeof value === 'number' ? { literal: value } : {}),
})
