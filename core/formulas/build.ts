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
  /** How many more values `for`, `some`, `every`, filters and paths may go through. */
  left: number
  /** How much more may be looked at and made besides: values of lists, letters of texts. */
  work: number
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
/** What a formula may look at and make besides: some milliseconds' worth. */
export const WORK_MOST = 200_000
/** No text that a formula makes on its way is longer: few letters of a formula could fill the memory with one. */
export const TEXT_MOST = 100_000

/** Thrown when a formula goes through too much while it is worked out. */
export class FormulaTooLong extends Error {
  constructor(readonly most: number) {
    super(`The formula processes more than ${most.toLocaleString('en')} values.`)
  }
}

/** Counts one more value that is gone through. */
export function step(env: Env): void {
  if (--env.left < 0) throw new FormulaTooLong(ITERATIONS_MOST)
}

/** Counts what is looked at or made: once for each value, whatever is done with it. */
export function spend(env: Env, count: number): void {
  env.work -= count
  if (env.work < 0) throw new FormulaTooLong(WORK_MOST)
}

/** Counts a text of so many letters that is made or read; sixteen are about as much as one value. */
export function spendText(env: Env, length: number): void {
  if (length > TEXT_MOST) throw new FormulaTooLong(TEXT_MOST)
  spend(env, length >> 4)
}

/** Counts a value that a function is given. */
export function spendGiven(env: Env, value: FeelValue): void {
  if (typeof value === 'string') spendText(env, value.length)
  else if (Array.isArray(value)) spend(env, (value.length >> 2) + 1)
}

export const constant = (type: FeelType, value: FeelValue): Built => ({
  type,
  run: () => value,
  ...(typeof value === 'string' || typeof value === 'number' ? { literal: value } : {}),
})
