import type { Built } from '../build'
import { refuse } from '../problems'
import { alike, BOOLEAN, isOrdered, sayType, type FeelRange, type FeelType, type FeelValue } from '../types'
import type { FeelFunction } from './define'

type Side = 'point' | 'range'

const less = (a: FeelValue, b: FeelValue): boolean => (a as number) < (b as number)
const whole = (value: FeelValue, side: Side): FeelRange =>
  side === 'range' ? (value as FeelRange) : { from: value, to: value, fromIn: true, toIn: true }
/** What an argument is made of: the type of a point, or of a range's ends. */
const ofWhat = (type: FeelType): FeelType => (type.is === 'range' ? type.of : type)
const sideOf = (type: FeelType): Side => (type.is === 'range' ? 'range' : 'point')

const finishes = (a: FeelRange, b: FeelRange): boolean =>
  a.toIn === b.toIn && a.to === b.to && (less(b.from, a.from) || (a.from === b.from && (!a.fromIn || b.fromIn)))
const starts = (a: FeelRange, b: FeelRange): boolean =>
  a.fromIn === b.fromIn && a.from === b.from && (less(a.to, b.to) || (a.to === b.to && (!a.toIn || b.toIn)))
const before = (a: FeelRange, b: FeelRange): boolean =>
  less(a.to, b.from) || (a.to === b.from && (!a.toIn || !b.fromIn))
const meets = (a: FeelRange, b: FeelRange): boolean => a.toIn && b.fromIn && a.to === b.from
const includes = (a: FeelRange, b: FeelRange): boolean =>
  (less(a.from, b.from) || (a.from === b.from && (a.fromIn || !b.fromIn))) &&
  (less(b.to, a.to) || (a.to === b.to && (a.toIn || !b.toIn)))
const reaches = (a: FeelRange, b: FeelRange): boolean => less(b.from, a.to) || meets(a, b)
const overlapsBefore = (a: FeelRange, b: FeelRange): boolean =>
  (less(a.from, b.from) || (a.from === b.from && a.fromIn && !b.fromIn)) &&
  reaches(a, b) &&
  (less(a.to, b.to) || (a.to === b.to && (!a.toIn || b.toIn)))

/** A point counts as the range that holds it alone. */
function between(
  name: string,
  does: string,
  takes: readonly (readonly [Side, Side])[],
  holds: (a: FeelRange, b: FeelRange) => boolean,
): FeelFunction {
  const shown = takes.some(([a]) => a === 'point')
    ? takes.some(([a]) => a === 'range')
      ? 'a, b'
      : 'value, range'
    : 'range, range'
  return {
    name,
    takes: `${name}(${shown})`,
    does,
    build(args, places, at): Built {
      const [a, b] = args
      if (!a || !b || args.length > 2) return refuse(at, `${name} takes two values or ranges`)
      for (const [i, arg] of [a, b].entries())
        if (arg.type.is !== 'null' && !isOrdered(ofWhat(arg.type)))
          return refuse(
            places[i] ?? at,
            `${name} takes a value with an order or a range, and this is ${sayType(arg.type)}`,
          )
      if (!alike(ofWhat(a.type), ofWhat(b.type)))
        return refuse(places[1] ?? at, `${name} compares alike values, and this is ${sayType(ofWhat(b.type))}`)
      const sides = [sideOf(a.type), sideOf(b.type)] as const
      const nothing = a.type.is === 'null' || b.type.is === 'null'
      if (!nothing && !takes.some(([one, other]) => one === sides[0] && other === sides[1]))
        return refuse(at, `${name} takes ${takes.map(([one, other]) => `a ${one} and a ${other}`).join(', or ')}`)
      return {
        type: BOOLEAN,
        run: (env) => {
          const [x, y] = [a.run(env), b.run(env)]
          if (x === null || y === null) return null
          const [one, other] = [whole(x, sides[0]), whole(y, sides[1])]
          const open = [one.from, one.to, other.from, other.to].includes(null)
          return open ? null : holds(one, other)
        },
      }
    },
  }
}

const BOTH = ['range', 'range'] as const
const ANY = [['point', 'point'], ['point', 'range'], ['range', 'point'], BOTH] as const
const LEFT = [['point', 'range'], BOTH] as const
const RIGHT = [['range', 'point'], BOTH] as const

/** DMN 1.3, 10.3.4.9 (table 78). */
export const RANGE_FUNCTIONS: readonly FeelFunction[] = [
  between('before', 'true if it ends before the other begins', ANY, before),
  between('after', 'true if it begins after the other ends', ANY, (a, b) => before(b, a)),
  between('meets', 'true if the other begins where it ends', [BOTH], meets),
  between('met by', 'true if it begins where the other ends', [BOTH], (a, b) => meets(b, a)),
  between('overlaps', 'true if both have something in common', [BOTH], (a, b) => reaches(a, b) && reaches(b, a)),
  between('overlaps before', 'true if it begins first and ends within the other', [BOTH], overlapsBefore),
  between('overlaps after', 'true if it begins within the other and ends last', [BOTH], (a, b) => overlapsBefore(b, a)),
  between('finishes', 'true if it ends with the other and begins later', LEFT, finishes),
  between('finished by', 'true if the other ends with it and begins later', RIGHT, (a, b) => finishes(b, a)),
  between('includes', 'true if the other lies within it', RIGHT, includes),
  between('during', 'true if it lies within the other', LEFT, (a, b) => includes(b, a)),
  between('starts', 'true if it begins with the other and ends sooner', LEFT, starts),
  between('started by', 'true if the other begins with it and ends sooner', RIGHT, (a, b) => starts(b, a)),
  between(
    'coincides',
    'true if both are the same',
    [['point', 'point'], BOTH],
    (a, b) => a.from === b.from && a.to === b.to && a.fromIn === b.fromIn && a.toIn === b.toIn,
  ),
]
