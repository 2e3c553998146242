import { spend, spendGiven, type Env } from '../build'
import { same } from '../operators'
import { refuse } from '../problems'
import { either, listOf, NUMBER, sayType, type FeelType, type FeelValue } from '../types'
import { overList, type FeelFunction } from './define'

const isPlain = (one: FeelValue): boolean => typeof one !== 'object' || one === null

/** Calls `each` for every value, with whether it came before. */
function meeting(list: readonly FeelValue[], env: Env, each: (one: FeelValue, again: boolean) => void): void {
  const plain = new Set<FeelValue>()
  const others: FeelValue[] = []
  for (const one of list) {
    spend(env, 1)
    if (isPlain(one)) {
      each(one, plain.has(one))
      plain.add(one)
      continue
    }
    spend(env, others.length)
    const again = others.some((other) => same(one, other, env))
    each(one, again)
    if (!again) others.push(one)
  }
}

/** Every value once, in the order in which they come first. */
export function distinct(list: readonly FeelValue[], env: Env): readonly FeelValue[] {
  const found: FeelValue[] = []
  meeting(list, env, (one, again) => {
    if (!again) found.push(one)
  })
  return found
}

/** Values that come more than once, each once. */
function repeated(list: readonly FeelValue[], env: Env): readonly FeelValue[] {
  const found: FeelValue[] = []
  meeting(list, env, (one, again) => {
    if (again) found.push(one)
  })
  return distinct(found, env)
}

const innermost = (type: FeelType): FeelType => (type.is === 'list' ? innermost(type.of) : type)

function flat(list: readonly FeelValue[], env: Env, into: FeelValue[] = []): readonly FeelValue[] {
  for (const one of list) {
    spend(env, 1)
    if (Array.isArray(one)) flat(one as readonly FeelValue[], env, into)
    else into.push(one)
  }
  return into
}

/** The values that come most often, in their order. */
function mode(list: readonly FeelValue[], env: Env): readonly FeelValue[] | null {
  if (list.includes(null)) return null
  const counts = new Map<FeelValue, number>()
  for (const one of list) {
    spend(env, 1)
    counts.set(one, (counts.get(one) ?? 0) + 1)
  }
  const most = [...counts.values()].reduce((one, other) => Math.max(one, other), 0)
  return [...counts].flatMap(([one, n]) => (n === most ? [one] : [])).sort((a, b) => Number(a) - Number(b))
}

/** Of a sample: the squares are divided by one less than there are values. */
function deviation(list: readonly FeelValue[]): number | null {
  if (list.length < 2 || list.includes(null)) return null
  const numbers = list as readonly number[]
  const mean = numbers.reduce((sum, one) => sum + one, 0) / numbers.length
  return Math.sqrt(numbers.reduce((sum, one) => sum + (one - mean) ** 2, 0) / (numbers.length - 1))
}

/** The place in a list that a number means, counted from 1 or from the end; `null` when there is none. */
function placeOf(list: readonly FeelValue[], given: FeelValue, most: number): number | null {
  const at = Number(given) > 0 ? Number(given) - 1 : list.length + Number(given)
  return given === null || given === 0 || !Number.isInteger(at) || at < 0 || at >= most ? null : at
}

/** DMN 1.3, 10.3.4.4. */
export const SET_FUNCTIONS: readonly FeelFunction[] = [
  {
    name: 'sort',
    takes: 'sort(list, function(a, b) a < b)',
    does: 'the list in an order of your own',
    // It takes a function, which is no value: it is built where formulas are read.
    build: (_args, _places, at) => refuse(at, 'sort takes a list and a function: sort(list, function(a, b) a < b)'),
  },
  overList(
    'flatten',
    'lists within lists as one list',
    () => true,
    'anything',
    (of) => listOf(innermost(of)),
    flat,
  ),
  overList('duplicate values', 'values that come more than once', () => true, 'anything', listOf, repeated),
  overList(
    'mode',
    'the values that come most often',
    ({ is }) => is === 'number',
    'numbers',
    () => listOf(NUMBER),
    mode,
  ),
  overList(
    'stddev',
    'the standard deviation',
    ({ is }) => is === 'number',
    'numbers',
    () => NUMBER,
    deviation,
  ),
  {
    name: 'remove',
    takes: 'remove(list, position)',
    does: 'the list without one place',
    build(args, places, at) {
      const [list, place] = args
      if (!list || !place || args.length > 2) return refuse(at, 'remove takes a list and a position')
      if (list.type.is !== 'list')
        return refuse(places[0] ?? at, `remove takes a list, and this is ${sayType(list.type)}`)
      if (place.type.is !== 'number' && place.type.is !== 'null')
        return refuse(places[1] ?? at, 'remove counts its places with numbers')
      return {
        type: list.type,
        run: (env) => {
          const all = list.run(env) as readonly FeelValue[] | null
          if (all) spendGiven(env, all)
          const gone = all && placeOf(all, place.run(env), all.length)
          return all === null || gone === null ? null : all.filter((_, i) => i !== gone)
        },
      }
    },
  },
  {
    name: 'insert before',
    takes: 'insert before(list, position, value)',
    does: 'the list with a value put before a place',
    build(args, places, at) {
      const [list, place, value] = args
      if (!list || !place || !value || args.length > 3)
        return refuse(at, 'insert before takes a list, a position and a value')
      if (list.type.is !== 'list')
        return refuse(places[0] ?? at, `insert before takes a list, and this is ${sayType(list.type)}`)
      if (place.type.is !== 'number' && place.type.is !== 'null')
        return refuse(places[1] ?? at, 'insert before counts its places with numbers')
      const of = either(list.type.of, value.type)
      if (!of)
        return refuse(
          places[2] ?? at,
          `the list holds ${sayType(list.type.of)} each, and this is ${sayType(value.type)}`,
        )
      return {
        type: listOf(of),
        run: (env) => {
          const all = list.run(env) as readonly FeelValue[] | null
          if (all) spendGiven(env, all)
          const before = all && placeOf(all, place.run(env), all.length)
          return all === null || before === null
            ? null
            : [...all.slice(0, before), value.run(env), ...all.slice(before)]
        },
      }
    },
  },
]
