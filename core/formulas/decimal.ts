/**
 * Arithmetic in decimals: 0.1 + 0.2 is 0.3, and a price times a rate is what it is on paper. A number stands for the
 * shortest decimal that reads back as it, as everybody sees it; a result is the number nearest to the exact one. Where
 * few digits are involved that is the machine's own result, put right in its last place; otherwise whole numbers of any
 * length are used.
 */

/** Up to here a result in units of its last place is less than half of one away from the exact one. */
const UNITS_MOST = 1e15
/** So many decimals `toFixed` takes with certainty; more go the long way. */
const SHORT = 20
const LONG = Infinity

/** How many digits stand behind the point; `LONG` where the number is written with a power. */
function decimals(x: number): number {
  if (Number.isInteger(x)) return 0
  const text = String(x)
  return text.includes('e') ? LONG : text.length - text.indexOf('.') - 1
}

// Written out: the browsers that are built for have whole numbers of any length, but the compiler warns of their sign.
const TEN = BigInt(10)

interface Exact {
  readonly units: bigint
  readonly scale: number
}

function exact(x: number): Exact {
  const [mantissa = '0', power = '0'] = String(x).split('e')
  const dot = mantissa.indexOf('.')
  const scale = (dot < 0 ? 0 : mantissa.length - dot - 1) - Number(power)
  const units = BigInt(mantissa.replace('.', ''))
  return scale < 0 ? { units: units * TEN ** BigInt(-scale), scale: 0 } : { units, scale }
}

const nearest = ({ units, scale }: Exact): number => Number(`${units}e${-scale}`)

function fixed(made: number, digits: number): number | null {
  return digits <= SHORT && Math.abs(made) * 10 ** digits < UNITS_MOST ? Number(made.toFixed(digits)) : null
}

/** The sum; not a number where one side is none. */
export function plus(x: number, y: number): number {
  const made = x + y
  const digits = Math.max(decimals(x), decimals(y))
  if (digits === 0 || !Number.isFinite(made)) return made
  const short = fixed(made, digits)
  if (short !== null) return short
  const [a, b] = [exact(x), exact(y)]
  const scale = Math.max(a.scale, b.scale)
  return nearest({
    units: a.units * TEN ** BigInt(scale - a.scale) + b.units * TEN ** BigInt(scale - b.scale),
    scale,
  })
}

export const minus = (x: number, y: number): number => plus(x, -y)

/** The product. */
export function times(x: number, y: number): number {
  const made = x * y
  const digits = decimals(x) + decimals(y)
  if (digits === 0 || !Number.isFinite(made)) return made
  const short = fixed(made, digits)
  if (short !== null) return short
  const [a, b] = [exact(x), exact(y)]
  return nearest({ units: a.units * b.units, scale: a.scale + b.scale })
}

/** The quotient: exact where it ends, else the machine's own. */
export function over(x: number, y: number): number {
  const made = x / y
  if (!Number.isFinite(made) || Number.isInteger(made)) return made
  const short = Number(made.toPrecision(15))
  return short !== made && times(short, y) === x ? short : made
}

/** A power; of whole ones every step is exact. */
export function power(x: number, by: number): number {
  if (!Number.isInteger(by) || by < 0 || by > 64 || Number.isInteger(x)) return x ** by
  let made = 1
  for (let i = 0; i < by; i++) made = times(made, x)
  return made
}
