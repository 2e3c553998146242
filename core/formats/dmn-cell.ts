import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { PLAIN_STYLE } from '../fields/kind'
import { FIELD_TYPES } from '../fields/types'
import { bad, good, type Problem, type Result } from '../language/problems'
import { isEmpty, type Value } from '../language/value'
import { testedBy, type Cell } from '../tables/table'
import { isDate } from '../time/dates'

/**
 * Tests of a file: the unary tests of FEEL (DMN 1.3, 10.3.1.2, grammar rules 12 to 17) whose ends are literals. What is
 * not of the kind of its column, or would need a formula, is refused; nothing is taken for something like it.
 */

type Kind = 'number' | 'text' | 'date' | 'yesNo'
type Literal = { readonly kind: Kind; readonly value: number | string | boolean } | { readonly kind: 'null' }

const KIND_WORDS: { readonly [K in Kind]: string } = {
  number: 'numbers',
  text: 'texts',
  date: 'dates',
  yesNo: 'true and false',
}
const ONE_OF: { readonly [K in Kind]: string } = {
  number: 'a number',
  text: 'a text in quotes',
  date: 'a date, for example date("2026-11-24")',
  yesNo: 'true or false',
}

const kindOf = (field: Field): Kind => {
  const { widget } = FIELD_TYPES[field.type]
  return widget === 'number' || widget === 'date' || widget === 'yesNo' ? widget : 'text'
}

class Unfit extends Error {
  constructor(readonly problem: Problem) {
    super(problem.code)
  }
}
const unfit = (problem: Problem): never => {
  throw new Unfit(problem)
}

/** Goes through a test, sign by sign. */
class Scanner {
  private at = 0
  constructor(private readonly text: string) {}

  get done(): boolean {
    this.blanks()
    return this.at >= this.text.length
  }

  get rest(): string {
    return this.text.slice(this.at, this.at + 30)
  }

  private blanks(): void {
    while (/\s/.test(this.text[this.at] ?? '')) this.at++
  }

  /** What matches here, if anything does; `pattern` is sticky. */
  take(pattern: RegExp): RegExpExecArray | null {
    this.blanks()
    pattern.lastIndex = this.at
    const found = pattern.exec(this.text)
    if (found) this.at += found[0].length
    return found
  }
}

const NUMBER = /-?(?:\d+(?:\.\d+)?|\.\d+)(?![\w%]|\.\d)/y
const STRING = /"(?:[^"\\]|\\.)*"/y
const DATE = /(?:date\s*\(\s*("(?:[^"\\]|\\.)*")\s*\)|@\s*("(?:[^"\\]|\\.)*"))/y
const WORD = /(?:true|false|null)(?!\w)/y

function textOf(quoted: string): string {
  try {
    return String(JSON.parse(quoted))
  } catch (error) {
    if (error instanceof SyntaxError) return unfit({ code: 'notText', raw: quoted })
    throw error
  }
}

function literal(scan: Scanner): Literal {
  const number = scan.take(NUMBER)
  if (number) return { kind: 'number', value: Number(number[0]) }
  const date = scan.take(DATE)
  if (date) {
    const value = textOf(date[1] ?? date[2] ?? '""')
    return isDate(value) ? { kind: 'date', value } : unfit({ code: 'notDay', raw: date[0] })
  }
  const text = scan.take(STRING)
  if (text) return { kind: 'text', value: textOf(text[0]) }
  const word = scan.take(WORD)
  if (word) return word[0] === 'null' ? { kind: 'null' } : { kind: 'yesNo', value: word[0] === 'true' }
  return unfit(scan.done ? { code: 'openEnd' } : { code: 'notFixed', raw: scan.rest })
}

type Test =
  | { readonly is: 'value'; readonly of: Literal }
  | { readonly is: 'band'; readonly cell: Extract<Cell, { readonly is: 'band' }> }

/** The end of a range, of the kind of its column. */
function end(scan: Scanner, kind: Kind): number | string {
  const found = literal(scan)
  if (kind !== 'number' && kind !== 'date') return unfit({ code: 'noRanges', kinds: KIND_WORDS[kind] })
  return found.kind === kind ? (found.value as number | string) : unfit({ code: 'rangeEnds', one: ONE_OF[kind] })
}

function test(scan: Scanner, kind: Kind): Test {
  const compare = scan.take(/<=|>=|<|>/y)
  if (compare) {
    const value = end(scan, kind)
    const [sign] = compare
    return {
      is: 'band',
      cell: sign.startsWith('<')
        ? { is: 'band', from: null, fromIn: false, to: value, toIn: sign === '<=' }
        : { is: 'band', from: value, fromIn: sign === '>=', to: null, toIn: false },
    }
  }
  const opens = scan.take(/[[(\]]/y)
  if (!opens) return { is: 'value', of: literal(scan) }
  const from = end(scan, kind)
  if (!scan.take(/\.\./y)) return unfit({ code: 'rangeForm' })
  const to = end(scan, kind)
  const closes = scan.take(/[\])[]/y)
  if (!closes) return unfit({ code: 'rangeOpen' })
  const cell = { is: 'band', from, fromIn: opens[0] === '[', to, toIn: closes[0] === ']' } as const
  if (from > to || (from === to && !(cell.fromIn && cell.toIn))) return unfit({ code: 'rangeOfNone' })
  return { is: 'band', cell }
}

function tests(scan: Scanner, kind: Kind): readonly Test[] {
  const found = [test(scan, kind)]
  while (scan.take(/,/y)) found.push(test(scan, kind))
  return found
}

/** Values of a column, as the field keeps them: choices, stages and people by their words or ids. */
function accepted(of: Literal, kind: Kind, field: Field, catalogue: Catalogue): Value {
  if (of.kind === 'null') return unfit({ code: 'nullAmong' })
  if (of.kind !== kind) return unfit({ code: 'otherKind', kinds: KIND_WORDS[kind], one: ONE_OF[kind] })
  const type = FIELD_TYPES[field.type]
  const context = { catalogue, field, style: PLAIN_STYLE, pipelineId: null }
  const kept = type.accept(of.value, context)
  const read = kept.ok || typeof of.value !== 'string' ? kept : type.read(of.value, context)
  if (!read.ok || isEmpty(read.value))
    return unfit({ code: 'notOfField', raw: JSON.stringify(of.value), field: field.label })
  return read.value
}

function cellOf(given: readonly Test[], not: boolean, field: Field, catalogue: Catalogue): Cell {
  const kind = kindOf(field)
  const [first] = given
  if (given.length === 1 && first?.is === 'value' && first.of.kind === 'null') return { is: not ? 'filled' : 'empty' }
  if (given.length === 1 && first?.is === 'band') return not ? unfit({ code: 'emptyToo' }) : first.cell
  const values = given.map((one) =>
    one.is === 'value' ? accepted(one.of, kind, field, catalogue) : unfit({ code: 'rangesInCell' }),
  )
  const [only] = values
  // One number is the range that begins and ends with it, as people see it on the line.
  if (
    !not &&
    values.length === 1 &&
    testedBy(field) === 'band' &&
    (typeof only === 'number' || typeof only === 'string')
  )
    return { is: 'band', from: only, fromIn: true, to: only, toIn: true }
  return { is: 'values', values, not }
}

/** Reads a test of a file for a field. */
export function readDmnCell(text: string, field: Field, catalogue: Catalogue): Result<Cell> {
  const raw = text.trim()
  if (raw === '' || raw === '-') return good({ is: 'any' })
  const scan = new Scanner(raw)
  try {
    const not = scan.take(/not\s*\(/y) !== null
    const given = tests(scan, kindOf(field))
    if (not && !scan.take(/\)/y)) return unfit({ code: 'openNot' })
    if (!scan.done) return unfit({ code: 'notUnderstood', raw: scan.rest })
    return good(cellOf(given, not, field, catalogue))
  } catch (error) {
    if (error instanceof Unfit) return bad(error.problem)
    throw error
  }
}
