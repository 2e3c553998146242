import '../language/refusals/of-server'
import Papa from 'papaparse'
import { bad, good, type Result } from '../language/problems'
import type { Rate } from '../money/rates'
import { readDate } from '../time/dates'

/**
 * Rates as the European Central Bank publishes them as CSV: a heading "Date" with the codes of currencies behind it,
 * then a line a day with how many units of each one euro buys. A day is written 2026-11-27 or 27 November 2026; "N/A"
 * or nothing is no rate.
 */

/** What a currency needs to be called: ISO 4217. */
export const isCode = (text: string): boolean => /^[A-Z]{3}$/.test(text)

const EURO = 'EUR'
export const RATES_FILE_MOST = 4_000_000
const ROWS_MOST = 20_000

export interface RatesFile {
  readonly rates: readonly Rate[]
  /** Codes in the file that were not asked for. */
  readonly left: readonly string[]
}

/**
 * Reads such a file for a workspace with a currency of its own. Only rates of the `wanted` codes are taken. Refuses a
 * file that is none such, or a day or rate that cannot be read, with its line.
 */
export function readRates(text: string, own: string, wanted: ReadonlySet<string>): Result<RatesFile> {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { delimiter: ',', skipEmptyLines: 'greedy' })
  const [head = [], ...lines] = data.map((row) => row.map((cell) => cell.trim()))
  if (head[0]?.toLowerCase() !== 'date') return bad({ code: 'dateFirst' })
  if (lines.length > ROWS_MOST) return bad({ code: 'tooManyDays', most: ROWS_MOST })
  const codes = head.map((code) => code.toUpperCase())
  const wrong = codes.findIndex((code, i) => i > 0 && code !== '' && !isCode(code))
  if (wrong > 0) return bad({ code: 'notCurrency', column: wrong + 1, raw: head[wrong] ?? '' })
  if (own !== EURO && !codes.includes(own)) return bad({ code: 'noOwnCurrency', currency: own })
  const rates: Rate[] = []
  const seen = new Set<string>()
  for (const [i, line] of lines.entries()) {
    const at = i + 2
    const day = readDate(line[0] ?? '', 'dayFirst')
    if (day === null) return bad({ code: 'rateDay', line: at, raw: line[0] ?? '' })
    if (seen.has(day)) return bad({ code: 'rateTwice', line: at, day })
    seen.add(day)
    const perEuro = new Map<string, number>([[EURO, 1]])
    for (const [column, code] of codes.entries()) {
      const cell = line[column] ?? ''
      if (column === 0 || code === '' || cell === '' || cell.toUpperCase() === 'N/A') continue
      const rate = Number(cell)
      if (!Number.isFinite(rate) || rate <= 0) return bad({ code: 'notRate', line: at, currency: code, raw: cell })
      perEuro.set(code, rate)
    }
    const base = perEuro.get(own)
    if (base === undefined) continue
    for (const [code, rate] of perEuro)
      if (code !== own && wanted.has(code)) rates.push({ code, day, perOwn: Number((rate / base).toPrecision(12)) })
  }
  const left = [...new Set([EURO, ...codes.slice(1)])].filter(
    (code) => code !== '' && code !== own && !wanted.has(code),
  )
  return good({ rates, left: left.filter((code) => code !== EURO || codes.includes(EURO)).sort() })
}
