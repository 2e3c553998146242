import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { PLAIN_STYLE } from '../fields/kind'
import { FIELD_TYPES } from '../fields/types'
import { isEmpty, type Value } from '../language/value'
import { bad, good, type Problem, type Result } from '../language/problems'
import { testedBy, type Cell } from './table'
import { sayValue } from '../fields/say-value'

/**
 * Tests as people type them and as a spreadsheet holds them: the unary tests of FEEL (DMN 1.3, 10.3.1.2), with values
 * in the words of the workspace: `< 10000`, `[10000..40000)`, `>= 40000`, `Hire, Purchase`, `not(Hire)`, `-`, `empty`.
 */

const plain = (value: number | string | null): string => (value === null ? '' : String(value))

/** A test in its one written form. */
export function writeCell(cell: Cell, field: Field, catalogue: Catalogue): string {
  switch (cell.is) {
    case 'any':
      return '-'
    case 'empty':
      return 'empty'
    case 'filled':
      return 'filled'
    case 'values': {
      const values = cell.values
        .map((value) =>
          typeof value === 'number' || testedBy(field) === 'band'
            ? String(value)
            : quote(isEmpty(value) ? 'empty' : sayValue(value, field, catalogue), field),
        )
        .join(', ')
      return cell.not ? `not(${values})` : values
    }
    case 'band': {
      if (cell.from !== null && cell.to !== null) {
        return cell.from === cell.to && cell.fromIn && cell.toIn
          ? plain(cell.from)
          : `${cell.fromIn ? '[' : '('}${plain(cell.from)}..${plain(cell.to)}${cell.toIn ? ']' : ')'}`
      }
      if (cell.from !== null) return `${cell.fromIn ? '>=' : '>'} ${plain(cell.from)}`
      return cell.to === null ? 'filled' : `${cell.toIn ? '<=' : '<'} ${plain(cell.to)}`
    }
  }
}

const isText = (field: Field): boolean => FIELD_TYPES[field.type].widget === 'text'

/** What would be something else than a text where it stands without quotes. */
const ELSE = /^(?:empty|not|filled|null|true|false)$|^[<>=[\]]|\.\./i

/** Values that could be taken for something else stand in quotes. */
const quote = (text: string, field: Field): string =>
  /[",()]|^\s|\s$|^-$/.test(text) || (isText(field) ? ELSE.test(text) : /^(?:empty|not|filled|null)$/i.test(text))
    ? JSON.stringify(text)
    : text

interface Listed {
  readonly text: string
  readonly quoted: boolean
}

/** The values of a list, cut at its commas outside of quotes; `null` when a quote does not end. */
function listed(text: string): readonly Listed[] | null {
  const found: Listed[] = []
  for (let rest = text.trim(); rest !== '';) {
    const quoted = /^"(?:[^"\\]|\\.)*"/.exec(rest)?.[0]
    if (quoted === undefined && rest.startsWith('"')) return null
    const piece = quoted ?? /^[^,]*/.exec(rest)?.[0] ?? ''
    found.push(quoted === undefined ? { text: piece.trim(), quoted: false } : { text: unquote(quoted), quoted: true })
    rest = rest.slice(piece.length).trim()
    if (rest === '') break
    if (!rest.startsWith(',')) return null
    rest = rest.slice(1).trim()
    if (rest === '') return null
  }
  return found
}

function unquote(text: string): string {
  try {
    return String(JSON.parse(text))
  } catch (error) {
    if (error instanceof SyntaxError) return text.slice(1, -1)
    throw error
  }
}

function readOne(text: string, field: Field, catalogue: Catalogue): Result<Value> {
  const context = { catalogue, field, style: PLAIN_STYLE, pipelineId: null }
  // A number is its digits: a sign behind or before it, or a blank within, would be taken for something it is not.
  if (FIELD_TYPES[field.type].widget === 'number' && !/^-?(?:\d+(?:\.\d+)?|\.\d+)$/.test(text)) {
    const digits = /^-?[\d.]+/.exec(text.replace(/[^\d.-]/g, ''))?.[0]
    if (!digits) return FIELD_TYPES[field.type].read(text, context)
    return bad({ code: 'notPlainNumber', raw: text, plain: /^-?\d+(?:\.\d+)?$/.test(digits) ? digits : null })
  }
  const read = FIELD_TYPES[field.type].read(text, context)
  if (read.ok) return read
  // Ids are as good as words: files and tables of old may hold them.
  const accepted = FIELD_TYPES[field.type].accept(text, context)
  return accepted.ok ? accepted : read
}

const RANGE = /^([[(\]])\s*(.+?)\s*\.\.\s*(.+?)\s*([\])[])$/
const COMPARE = /^(<=|>=|<|>|=)\s*(.+)$/

/**
 * Reads a test for a field. A band whose borders are not said is refused: whether 2,500 belongs to it is nobody's
 * guess.
 */
export function readCell(text: string, field: Field, catalogue: Catalogue): Result<Cell> {
  const raw = text.trim()
  if (raw === '' || raw === '-') return good({ is: 'any' })
  if (/^empty$/i.test(raw) || raw === 'null') return good({ is: 'empty' })
  if (/^filled$/i.test(raw) || /^not\s*\(\s*(?:null|empty)\s*\)$/i.test(raw)) return good({ is: 'filled' })
  const by = testedBy(field)
  if (by === null) return bad({ code: 'wrongType', type: FIELD_TYPES[field.type].word })
  return by === 'band' ? readBand(raw, field, catalogue) : readValues(raw, field, catalogue)
}

function readBand(raw: string, field: Field, catalogue: Catalogue): Result<Cell> {
  const border = (text: string): Result<number | string> => {
    const read = readOne(text, field, catalogue)
    if (!read.ok) return read
    return typeof read.value === 'number' || typeof read.value === 'string'
      ? good(read.value)
      : bad({ code: 'missing', what: 'border' })
  }
  const range = RANGE.exec(raw)
  if (range) {
    const [from, to] = [border(range[2] ?? ''), border(range[3] ?? '')]
    if (!from.ok) return from
    if (!to.ok) return to
    const cell: Cell = { is: 'band', from: from.value, fromIn: range[1] === '[', to: to.value, toIn: range[4] === ']' }
    const none = from.value > to.value || (from.value === to.value && !(cell.fromIn && cell.toIn))
    return none ? bad({ code: 'emptyRange', raw }) : good(cell)
  }
  const loose = /^(.+?)\s*(?:\.\.|–|to\s)\s*(.+)$/.exec(raw)
  const [, from = '', to = ''] = loose ?? []
  if (loose && border(from).ok && border(to).ok) return bad({ code: 'noBrackets', from, to })
  if (/,|^not\s*\(/i.test(raw)) return readSeveral(raw, border)
  const compare = COMPARE.exec(raw)
  const value = border(compare?.[2] ?? raw)
  if (!value.ok) return value
  switch (compare?.[1]) {
    case '<':
      return good({ is: 'band', from: null, fromIn: false, to: value.value, toIn: false })
    case '<=':
      return good({ is: 'band', from: null, fromIn: false, to: value.value, toIn: true })
    case '>':
      return good({ is: 'band', from: value.value, fromIn: false, to: null, toIn: false })
    case '>=':
      return good({ is: 'band', from: value.value, fromIn: true, to: null, toIn: false })
    default:
      return good({ is: 'band', from: value.value, fromIn: true, to: value.value, toIn: true })
  }
}

/** Several numbers or days, cut at commas: "100, 200", "not(100, 200)". */
function readSeveral(raw: string, border: (text: string) => Result<number | string>): Result<Cell> {
  const not = /^not\s*\((.*)\)$/i.exec(raw)
  const inside = not?.[1] ?? raw
  if (/[<>[\]]|\.\./.test(inside)) return bad({ code: not ? 'otherThanRange' : 'severalRanges' })
  // "2,500" is mostly one number, and by the comma two.
  if (/^-?\d{1,2}(?:,\d{3})+$/.test(inside) || /^-?\d{3}(?:,000)+$/.test(inside))
    return bad({ code: 'oneOrSeveral', raw: inside })
  const values: Value[] = []
  for (const text of inside.split(',')) {
    const read = border(text.trim())
    if (!read.ok) return read
    values.push(read.value)
  }
  return good({ is: 'values', values, not: not !== null })
}

/** A text that stands without quotes and would be another test. */
function elseThanText({ text, quoted }: Listed, field: Field): Problem | null {
  if (quoted || !isText(field)) return null
  if (/^[<>=]/.test(text)) return { code: 'noOrderOfTexts', raw: text }
  return ELSE.test(text) ? { code: 'noQuotes', raw: text } : null
}

function readValues(raw: string, field: Field, catalogue: Catalogue): Result<Cell> {
  const not = /^not\s*\((.*)\)$/i.exec(raw)
  const texts = listed(not?.[1] ?? raw)
  if (!texts || texts.length === 0) return bad({ code: 'openList' })
  const values: Value[] = []
  for (const one of texts) {
    const other = elseThanText(one, field)
    if (other) return bad(other)
    const read = readOne(one.text, field, catalogue)
    if (!read.ok) return read
    if (isEmpty(read.value)) return bad({ code: 'missing', what: 'value' })
    values.push(read.value)
  }
  return good({ is: 'values', values, not: not !== null })
}
