import { weekday } from '../../core/time/dates'

/** A simulated central bank: what one euro buys on each working day, as CSV in the layout of the real ones. */

/** Made up, and near enough to be believed. */
const AROUND: { readonly [code: string]: number } = {
  USD: 1.09,
  GBP: 0.85,
  CHF: 0.95,
  PLN: 4.3,
  CAD: 1.48,
  NZD: 1.79,
  AUD: 1.65,
  SEK: 11.3,
  NOK: 11.6,
  DKK: 7.46,
  CZK: 25.1,
  HUF: 395,
  JPY: 163,
}

/** The same number for the same text, from 0 to 1. */
function noise(text: string): number {
  let hash = 2166136261
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 16777619)
  return (hash >>> 0) / 4294967296
}

/** A slow swing of a few percent and a small step each day. */
function rateOn(code: string, day: string): number {
  const days = Date.parse(day) / 86_400_000
  const swing = 0.03 * Math.sin(days / 47 + noise(code) * 6.28) + 0.004 * (noise(`${code} ${day}`) - 0.5)
  return Number(((AROUND[code] ?? 1) * (1 + swing)).toPrecision(5))
}

/** Days on which no bank works are left out. */
export function publishedRates(days: readonly string[]): string {
  const codes = Object.keys(AROUND)
  return [
    ['Date', ...codes].join(','),
    ...days.filter((day) => weekday(day) <= 5).map((day) => [day, ...codes.map((code) => rateOn(code, day))].join(',')),
  ].join('\n')
}
