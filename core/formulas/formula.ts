import type { Catalogue } from '../fields/catalogue'
import type { Value } from '../language/value'
import type { ObjectKind } from '../records/kinds'
import { useFormulas } from './asked'
import { faulty, FormulaTooLong, ITERATIONS_MOST, WORK_MOST, type Env, type FormulaSubject } from './build'
import { DAY_MS, dayOfText, textOfDay } from './calendar'
import { compileTree } from './compile'
import type { Compiled } from './compiled'
import { parseFormula } from './parse'
import { BrokenFormula } from './problems'
import type { FeelType, FeelValue } from './types'
import type { Moment } from '../conditions/moment'

export type { FormulaSubject } from './build'
export type { Compiled, Formula } from './compiled'
export type { FormulaProblem } from './problems'

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

useFormulas(compileFormula)
