import { capital } from '../language/nouns'
import { dateAt, instantOf } from '../time/dates'
import { faulty, spend, spendText, type Built, type Env, type Run } from './build'
import { minus, over, plus, power, times } from './decimal'
import { addMonthsTo, DAY_MS, dayOfText, textOfDay } from './calendar'
import { refuse, type Span } from './problems'
import {
  alike,
  BOOLEAN,
  DATE,
  DATE_TIME,
  DAYS,
  isOrdered,
  MONTHS,
  NUMBER,
  sayType,
  STRING,
  type FeelType,
  type FeelValue,
} from './types'

/** Arithmetic and comparisons. An empty side makes the result empty (DMN 1.3, tables 42 to 55). */

export type ArithmeticOp = '+' | '-' | '*' | '/' | '**'
export type CompareOp = '=' | '!=' | '<' | '<=' | '>' | '>='

const numbers =
  (a: Run, b: Run, work: (x: number, y: number) => number, divides: boolean): Run =>
  (env) => {
    const x = a(env)
    if (x === null) return null
    const y = b(env)
    if (y === null) return null
    const made = work(x as number, y as number)
    // Nothing is divided by nothing, and no result is too large to be one.
    return Number.isFinite(made) ? made + 0 : faulty(env, { code: divides && y === 0 ? 'dividedByZero' : 'outOfRange' })
  }

/** Of spans, which are whole numbers. */
const WORK: { readonly [O in Exclude<ArithmeticOp, '**'>]: (x: number, y: number) => number } = {
  '+': (x, y) => x + y,
  '-': (x, y) => x - y,
  '*': (x, y) => x * y,
  '/': (x, y) => x / y,
}

/** So many calendar months after an instant, by the clock of the zone. */
export function addMonthsAt(atMs: number, months: number, zone: string): number {
  const day = dayOfText(dateAt(atMs, zone))
  const minute = Math.floor((atMs - instantOf(dateAt(atMs, zone), 0, 0, zone)) / 60_000)
  const text = textOfDay(addMonthsTo(day, months))
  return text === null ? atMs : instantOf(text, Math.floor(minute / 60), minute % 60, zone) + (atMs % 60_000)
}

type Pair = `${FeelType['is']} ${ArithmeticOp} ${FeelType['is']}`

/** Which kinds go together, and what they come to. */
const PAIRS: { readonly [P in Pair]?: readonly [gives: FeelType, work: (x: number, y: number, env: Env) => number] } = {
  'number + number': [NUMBER, plus],
  'number - number': [NUMBER, minus],
  'number * number': [NUMBER, times],
  'number / number': [NUMBER, over],
  'number ** number': [NUMBER, power],
  'date - date': [DAYS, (x, y) => (x - y) * DAY_MS],
  'dateTime - dateTime': [DAYS, WORK['-']],
  'date + days': [DATE, (x, y) => x + Math.floor(y / DAY_MS)],
  'days + date': [DATE, (x, y) => y + Math.floor(x / DAY_MS)],
  'date - days': [DATE, (x, y) => x + Math.floor(-y / DAY_MS)],
  'date + months': [DATE, addMonthsTo],
  'months + date': [DATE, (x, y) => addMonthsTo(y, x)],
  'date - months': [DATE, (x, y) => addMonthsTo(x, -y)],
  'dateTime + days': [DATE_TIME, WORK['+']],
  'days + dateTime': [DATE_TIME, WORK['+']],
  'dateTime - days': [DATE_TIME, WORK['-']],
  'dateTime + months': [DATE_TIME, (x, y, env) => addMonthsAt(x, y, env.zone)],
  'months + dateTime': [DATE_TIME, (x, y, env) => addMonthsAt(y, x, env.zone)],
  'dateTime - months': [DATE_TIME, (x, y, env) => addMonthsAt(x, -y, env.zone)],
  'days + days': [DAYS, WORK['+']],
  'days - days': [DAYS, WORK['-']],
  'days * number': [DAYS, WORK['*']],
  'number * days': [DAYS, WORK['*']],
  'days / number': [DAYS, WORK['/']],
  'days / days': [NUMBER, WORK['/']],
  'months + months': [MONTHS, WORK['+']],
  'months - months': [MONTHS, WORK['-']],
  'months * number': [MONTHS, (x, y) => Math.trunc(x * y)],
  'number * months': [MONTHS, (x, y) => Math.trunc(x * y)],
  'months / number': [MONTHS, (x, y) => Math.trunc(x / y)],
  'months / months': [NUMBER, WORK['/']],
}

export function arithmetic(op: ArithmeticOp, a: Built, b: Built, at: Span): Built {
  if (a.type.is === 'null' || b.type.is === 'null')
    return { type: a.type.is === 'null' ? b.type : a.type, run: () => null }
  if (op === '+' && a.type.is === 'string' && b.type.is === 'string') {
    return {
      type: STRING,
      run: (env) => {
        const x = a.run(env)
        const y = x === null ? null : b.run(env)
        if (y === null) return null
        spendText(env, (x as string).length + (y as string).length)
        return `${x as string}${y as string}`
      },
    }
  }
  const pair = PAIRS[`${a.type.is} ${op} ${b.type.is}`]
  if (!pair) return refuse(at, misfit(op, a.type, b.type))
  const [type, work] = pair
  // Most sums need nothing of the world.
  const divides = op === '/'
  if (work.length < 3) return { type, run: numbers(a.run, b.run, work as (x: number, y: number) => number, divides) }
  const { run: x } = a
  const { run: y } = b
  return { type, run: (env) => numbers(x, y, (one, other) => work(one, other, env), divides)(env) }
}

function misfit(op: ArithmeticOp, a: FeelType, b: FeelType): string {
  const words = `You can’t use ${op} with ${sayType(a)} and ${sayType(b)}.`
  if ((a.is === 'date' && b.is === 'dateTime') || (a.is === 'dateTime' && b.is === 'date'))
    return `${words} Wrap the one with a time in date(…).`
  if ((a.is === 'date' || a.is === 'dateTime') && b.is === 'number')
    return `${words} Multiply the number by duration("P1D") for days.`
  if (a.is === 'string' && op === '+') return `${words} Use string(…) to join it to a text.`
  if (b.is === 'string' && op === '+') return `${words} Use string(…) on the first to join it to a text.`
  return words
}

export function negative(a: Built, at: Span): Built {
  if (a.type.is !== 'number' && a.type.is !== 'days' && a.type.is !== 'months' && a.type.is !== 'null')
    return refuse(at, `${sayType(a.type)} can’t be negative.`)
  const { run } = a
  if (typeof a.literal === 'number') {
    const value = -a.literal + 0
    return { type: a.type, run: () => value, literal: value }
  }
  return {
    type: a.type,
    run: (env) => {
      const x = run(env)
      return x === null ? null : -(x as number) + 0
    },
  }
}

/** Whether two values of one type are the same; lists and groups element by element. */
export function same(a: FeelValue, b: FeelValue, env: Env): boolean {
  if (a === b) return true
  if (Array.isArray(a) && Array.isArray(b)) {
    // Lists of lists of the same lists are short to write and long to compare.
    spend(env, 1 + (a.length >> 2))
    return a.length === b.length && a.every((one, i) => same(one as FeelValue, b[i] as FeelValue, env))
  }
  if (typeof a === 'object' && typeof b === 'object' && a !== null && b !== null && 'entries' in a && 'entries' in b) {
    const [x, y] = [a.entries, b.entries]
    spend(env, 1)
    return (
      typeof x === 'object' &&
      typeof y === 'object' &&
      Object.keys(x).length === Object.keys(y).length &&
      Object.entries(x).every(([key, one]) =>
        same(one as FeelValue, (y as { readonly [name: string]: FeelValue })[key] ?? null, env),
      )
    )
  }
  return false
}

const ORDER: { readonly [O in '<' | '<=' | '>' | '>=']: (x: number | string, y: number | string) => boolean } = {
  '<': (x, y) => x < y,
  '<=': (x, y) => x <= y,
  '>': (x, y) => x > y,
  '>=': (x, y) => x >= y,
}

export function compare(op: CompareOp, a: Built, b: Built, at: Span): Built {
  if (!alike(a.type, b.type)) refuse(at, unlike(a.type, b.type))
  known(a, b, at)
  const { run: x } = a
  const { run: y } = b
  if (op === '=' || op === '!=') {
    const wanted = op === '='
    return { type: BOOLEAN, run: (env) => same(x(env), y(env), env) === wanted }
  }
  const type = a.type.is === 'null' ? b.type : a.type
  if (!isOrdered(type) && type.is !== 'null') refuse(at, `${sayType(type)} can’t be compared by size.`)
  const holds = ORDER[op]
  return {
    type: BOOLEAN,
    run: (env) => {
      const one = x(env)
      if (one === null) return null
      const other = y(env)
      return other === null ? null : holds(one as number, other as number)
    },
  }
}

function unlike(a: FeelType, b: FeelType): string {
  const words = `${capital(sayType(a))} and ${sayType(b)} can’t be compared.`
  const kinds = new Set([a.is, b.is])
  if (kinds.has('date') && kinds.has('dateTime')) return `${words} Wrap the one with a time in date(…).`
  if (kinds.has('days') && kinds.has('number'))
    return `${words} For example duration("P7D"), or divide by duration("P1D").`
  if (kinds.has('date') && kinds.has('string')) return `${words} For example date("2026-11-24").`
  return words
}

/** A text that a choice, stage or person is compared with must be one. */
export function known(a: Built, b: Built, at: Span): void {
  for (const [field, literal] of [
    [a.type.is === 'string' ? a.type.field : undefined, b.literal],
    [b.type.is === 'string' ? b.type.field : undefined, a.literal],
  ] as const) {
    if (!field || typeof literal !== 'string' || field.type !== 'choice') continue
    if (field.choices.some((choice) => choice.id === literal)) continue
    const meant = field.choices.find((choice) => choice.label.toLowerCase() === literal.toLowerCase())
    refuse(
      at,
      meant
        ? `Write "${meant.id}" for “${literal}” in formulas.`
        : `“${literal}” is not a choice of ${field.label}. Choices: ${field.choices
            .slice(0, 8)
            .map((choice) => `"${choice.id}"`)
            .join(', ')}`,
    )
  }
}

/** "and", "or" of yes, no and nothing (DMN 1.3, tables 38 and 39). */
export function both(a: Run, b: Run): Run {
  return (env) => {
    const x = a(env)
    if (x === false) return false
    const y = b(env)
    return y === false ? false : x === true && y === true ? true : null
  }
}

export function any(a: Run, b: Run): Run {
  return (env) => {
    const x = a(env)
    if (x === true) return true
    const y = b(env)
    return y === true ? true : x === false && y === false ? false : null
  }
}
