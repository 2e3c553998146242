import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { PLAIN_STYLE } from '../fields/kind'
import { FIELD_TYPES } from '../fields/types'
import type { FormulaFault } from '../language/formula-fault'
import { bad, good, type Result } from '../language/problems'
import type { Value } from '../language/value'
import type { ObjectKind } from '../records/kinds'
import { faulty, FormulaTooLong, ITERATIONS_MOST, WORK_MOST, type Env, type FormulaSubject, type Uses } from './build'
import { DAY_MS, dayOfText, textOfDay } from './calendar'
import { compileTree } from './compile'
import { parseFormula } from './parse'
import { BrokenFormula, type FormulaProblem } from './problems'
import type { FeelType, FeelValue } from './types'
import type { Moment } from '../conditions/moment'

export type { FormulaSubject } from './build'
export type { FormulaProblem } from './problems'

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

/** Reads a formula about a kind of record, checks the type of every part, and makes closures of it. Pure. */
export function compileFormula(text: string, object: ObjectKind, catalogue: Catalogue): Compiled {
  try {
    const { built, uses } = compileTree(parseFormula(text), text, object, catalogue)
    const { type, run } = built
    const worked = (env: Env): FeelValue => {
      try {
        return run(env)
      } catch (error) {
        if (error instanceof FormulaTooLong) return faulty(env, { code: 'tooLong', most: error.most })
        throw error
      }
    }
    const envOf = (subject: FormulaSubject, { today, nowMs, zone }: Moment): Env => ({
      subject,
      today: dayNumberOf(today),
      nowMs,
      zone,
      locals: [],
      left: ITERATIONS_MOST,
      work: WORK_MOST,
      fault: null,
    })
    const raw = (subject: FormulaSubject, moment: Moment): FeelValue => worked(envOf(subject, moment))
    return {
      ok: true,
      formula: {
        text,
        type,
        uses,
        raw,
        value: (subject, moment) => toValue(raw(subject, moment), type),
        outcome(subject, moment) {
          const env = envOf(subject, moment)
          const made = worked(env)
          const value = toValue(made, type)
          if (value !== null) return { value, fault: null }
          return { value, fault: env.fault ?? (made === null ? null : { code: 'outOfRange' }) }
        },
      },
    }
  } catch (error) {
    if (error instanceof BrokenFormula) return { ok: false, problem: error.problem }
    throw error
  }
}

/** The day was the same the last time, nearly always. */
let lastDay: readonly [text: string, day: number] = ['1970-01-01', 0]
function dayNumberOf(text: string): number {
  if (lastDay[0] !== text) lastDay = [text, dayOfText(text)]
  return lastDay[1]
}

/** As fields hold it: dates as texts, spans of days as a number of days, spans of months as a number of months. */
function toValue(value: FeelValue, type: FeelType): Value {
  if (value === null) return null
  switch (type.is) {
    case 'date':
      return textOfDay(value as number)
    case 'days':
      return (value as number) / DAY_MS
    case 'number':
    case 'months':
    case 'dateTime':
      return Number.isFinite(value as number) ? (value as number) : null
    case 'string':
      return value as string
    case 'boolean':
      return value as boolean
    case 'null':
    case 'list':
    case 'record':
    case 'context':
    case 'range':
      return null
  }
}

/** A value in the form in which a field keeps it, or why it does not fit. */
export function fit(value: Value, field: Field, catalogue: Catalogue): Result<Value> {
  if (value === null) return good(null)
  const whole = field.type === 'dateTime' && typeof value === 'number' ? Math.round(value) : value
  const read = FIELD_TYPES[field.type].accept(whole, { catalogue, field, style: PLAIN_STYLE, pipelineId: null })
  return read.ok ? good(read.value) : bad(read.problem)
}

/** The same for a field that is worked out: it shows nothing where it does not fit. */
export function fitted(value: Value, field: Field, catalogue: Catalogue): Value {
  const read = fit(value, field, catalogue)
  return read.ok ? read.value : null
}
