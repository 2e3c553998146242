import { bad, good, type Result } from '../../language/problems'
import { defineFieldType, type FieldType, type ReadContext, type WriteContext } from '../kind'
import type { Value } from '../../language/value'

/**
 * Reads a number as people write it: `1.234,50`, `1,234.50`, `1 234`, `€ 900`, `-3`, `12 %`.
 * Where both marks occur the later one is the decimal mark. A single mark is the decimal mark of the style,
 * or else separates groups of three. Returns `null` when the text is anything else.
 */
export function readNumber(raw: string, decimal: 'point' | 'comma'): number | null {
  const bare = raw
    .replace(/[\s\u00a0\u202f'’]/g, '')
    .replace(/^([+-]?)(?:€|\$|£|[A-Z]{3})([+-]?)/, '$1$2')
    .replace(/(?:€|\$|£|%|[A-Z]{3})$/, '')
  if (!/^[+-]?[\d.,]*\d[\d.,]*$/.test(bare)) return null
  const lastComma = bare.lastIndexOf(',')
  const lastPoint = bare.lastIndexOf('.')
  const mark = lastComma >= 0 && lastPoint >= 0 ? (lastComma > lastPoint ? ',' : '.') : decimal === 'comma' ? ',' : '.'
  const group = mark === ',' ? '.' : ','
  const grouped = new RegExp(`^[+-]?(?:\\d{1,3}(?:\\${group}\\d{3})+|\\d+)?(?:\\${mark}\\d*)?$`)
  if (!grouped.test(bare)) return null
  const value = Number(bare.replaceAll(group, '').replace(mark, '.'))
  return Number.isFinite(value) ? value : null
}

interface Given<K extends string> {
  readonly type: K
  readonly word: string
  /** Stored digits after the decimal mark. */
  readonly digits: number
  readonly show: (value: number, context: WriteContext) => string
  readonly examples: FieldType['examples']
}

function numberType<const K extends string>(given: Given<K>): FieldType<K> {
  // Adding 0 turns the negative zero that rounding leaves into the plain one, so that the two are no change.
  const round = (value: number) => (Number.isInteger(value) ? value : Number(value.toFixed(given.digits))) + 0
  const check = (value: number | null, raw: string): Result<Value> =>
    value === null || Math.abs(value) > Number.MAX_SAFE_INTEGER ? bad({ code: 'notANumber', raw }) : good(round(value))
  return defineFieldType({
    type: given.type,
    word: given.word,
    storage: 'real',
    widget: 'number',
    read: (raw: string, context: ReadContext) =>
      raw.trim() === '' ? good(null) : check(readNumber(raw, context.style.decimal), raw),
    accept: (value) => {
      if (value === null) return good(null)
      return typeof value === 'number'
        ? check(Number.isFinite(value) ? value : null, String(value))
        : bad({ code: 'wrongType', type: given.word })
    },
    write: (value, context) => given.show(Number(value), context),
    key: (value) => Number(value),
    ordered: true,
    examples: given.examples,
  })
}

const plain = new Map<string, Intl.NumberFormat>()
function formatter(locale: string, options: Intl.NumberFormatOptions): Intl.NumberFormat {
  const id = locale + JSON.stringify(options)
  let found = plain.get(id)
  if (!found) plain.set(id, (found = new Intl.NumberFormat(locale, options)))
  return found
}

export const number = numberType({
  type: 'number',
  word: 'number',
  digits: 6,
  show: (value, { catalogue }) => formatter(catalogue.workspace.locale, { maximumFractionDigits: 6 }).format(value),
  examples: [
    ['12', 12],
    ['-3.5', -3.5],
    ['1,234', 1234],
    ['', null],
  ],
})

export const percent = numberType({
  type: 'percent',
  word: 'percent',
  digits: 4,
  show: (value, { catalogue }) =>
    `${formatter(catalogue.workspace.locale, { maximumFractionDigits: 4 }).format(value)}%`,
  examples: [
    ['12 %', 12],
    ['7.5', 7.5],
  ],
})

export const currency = numberType({
  type: 'currency',
  word: 'currency',
  digits: 2,
  show: (value, { catalogue, currency: code }) =>
    formatter(catalogue.workspace.locale, {
      style: 'currency',
      currency: code ?? catalogue.workspace.currency,
      minimumFractionDigits: Number.isInteger(value) ? 0 : 2,
    }).format(value),
  examples: [
    ['€ 1,234.50', 1234.5],
    ['1.234,50', 1234.5],
    ['40000', 40000],
    ['900 EUR', 900],
  ],
})
