import { DAYS, MONTHS, NUMBER, STRING, BOOLEAN, type FeelValue } from '../types'
import { minus, over, times } from '../decimal'
import { plain, type FeelFunction, type Signature } from './define'

const n = (value: FeelValue | undefined): number => Number(value ?? 0)
const finite = (value: number): number | null => (Number.isFinite(value) ? value + 0 : null)

/** Rounds in decimals: 1.005 to two digits is 1.01, whatever the machine makes of it. */
function rounded(value: number, scale: number, how: (scaled: number) => number): number | null {
  if (!Number.isInteger(scale) || Math.abs(scale) > 15) return null
  const shifted = Number(`${value}e${scale}`)
  const whole = Number.isFinite(shifted) ? how(shifted) : how(value * 10 ** scale)
  return finite(Number(`${whole}e${-scale}`))
}

const halfEven = (x: number): number => {
  const floor = Math.floor(x)
  return x - floor === 0.5 ? (floor % 2 === 0 ? floor : floor + 1) : Math.round(x)
}
const away =
  (how: (x: number) => number) =>
  (x: number): number =>
    Math.sign(x) * how(Math.abs(x))
const scaled = (how: (x: number) => number, scaleFree = false): Signature => ({
  takes: [NUMBER, NUMBER],
  ...(scaleFree ? { optional: 1 } : {}),
  gives: NUMBER,
  run: ([x, scale]) => rounded(n(x), n(scale), how),
})

/** DMN 1.3, 10.3.4.5. */
export const NUMBER_FUNCTIONS: readonly FeelFunction[] = [
  plain(
    'abs',
    'number',
    'absolute value',
    { takes: [NUMBER], gives: NUMBER, run: ([x]) => Math.abs(n(x)) },
    { takes: [DAYS], gives: DAYS, run: ([x]) => Math.abs(n(x)) },
    { takes: [MONTHS], gives: MONTHS, run: ([x]) => Math.abs(n(x)) },
  ),
  plain('floor', 'number, digits', 'rounded down to an integer', scaled(Math.floor, true)),
  plain('ceiling', 'number, digits', 'the next higher number', scaled(Math.ceil, true)),
  plain('decimal', 'number, digits', 'rounded; halves to the even digit', scaled(halfEven)),
  plain('round up', 'number, digits', 'rounded away from 0', scaled(away(Math.ceil))),
  plain('round down', 'number, digits', 'rounded towards 0', scaled(away(Math.floor))),
  plain(
    'round half up',
    'number, digits',
    'rounded; a half goes away from 0',
    scaled(away((x) => Math.floor(x + 0.5))),
  ),
  plain('round half down', 'number, digits', 'rounded; a half goes towards 0', scaled(away((x) => Math.ceil(x - 0.5)))),
  plain('modulo', 'number, by', 'remainder of a division', {
    takes: [NUMBER, NUMBER],
    gives: NUMBER,
    run: ([x, y]) => finite(minus(n(x), times(n(y), Math.floor(over(n(x), n(y)))))),
  }),
  plain('sqrt', 'number', 'the square root', { takes: [NUMBER], gives: NUMBER, run: ([x]) => finite(Math.sqrt(n(x))) }),
  plain('exp', 'number', 'e to this power', { takes: [NUMBER], gives: NUMBER, run: ([x]) => finite(Math.exp(n(x))) }),
  plain('log', 'number', 'the natural logarithm', {
    takes: [NUMBER],
    gives: NUMBER,
    run: ([x]) => finite(Math.log(n(x))),
  }),
  plain('odd', 'number', 'true if odd', {
    takes: [NUMBER],
    gives: BOOLEAN,
    run: ([x]) => Math.abs(n(x) % 2) === 1,
  }),
  plain('even', 'number', 'true if even', { takes: [NUMBER], gives: BOOLEAN, run: ([x]) => n(x) % 2 === 0 }),
  plain('number', 'text', 'the number in a text such as "1.5"', {
    takes: [STRING],
    gives: NUMBER,
    run: ([x]) => (/^-?\d+(\.\d+)?$/.test(String(x)) ? finite(Number(x)) : null),
  }),
]
