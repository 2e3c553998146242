import { spend, spendGiven, type Env } from '../build'
import { over, plus, times } from '../decimal'
import { same } from '../operators'
import { refuse } from '../problems'
import {
  alike,
  BOOLEAN,
  either,
  isOrdered,
  listOf,
  NULL,
  NUMBER,
  sayType,
  type FeelType,
  type FeelValue,
} from '../types'
import { overList, plain, type FeelFunction } from './define'
import { distinct } from './sets'

const nums = (list: readonly FeelValue[]): readonly number[] | null =>
  list.length === 0 || list.some((one) => one === null) ? null : (list as readonly number[])
const isNumber = ({ is }: FeelType): boolean => is === 'number'
const isSum = ({ is }: FeelType): boolean => is === 'number' || is === 'days' || is === 'months'
const total = (list: readonly number[]): number => list.reduce((sum, one) => plus(sum, one), 0)
const itself = (of: FeelType): FeelType => of

function most(list: readonly FeelValue[], sign: 1 | -1): FeelValue {
  let found: FeelValue = null
  for (const one of list) {
    if (one === null) return null
    if (found === null || (sign > 0 ? (one as number) > (found as number) : (one as number) < (found as number)))
      found = one
  }
  return found
}

function median(list: readonly number[]): number {
  const sorted = [...list].sort((a, b) => a - b)
  const half = sorted.length / 2
  return Number.isInteger(half)
    ? over(plus(sorted[half - 1] ?? 0, sorted[half] ?? 0), 2)
    : (sorted[Math.floor(half)] ?? 0)
}

/** Something done with lists, or a list and values; `made` makes the result of all of them. */
function joined(
  name: string,
  takes: string,
  does: string,
  lists: boolean,
  least = 2,
  made: (all: readonly FeelValue[], env: Env) => FeelValue = (all) => all,
): FeelFunction {
  return {
    name,
    takes: `${name}(${takes})`,
    does,
    build(args, places, at) {
      if (args.length < least) refuse(at, `${name} takes ${takes}`)
      let of: FeelType = NULL
      args.forEach((arg, i) => {
        const isList = lists || i === 0
        if (isList && arg.type.is !== 'list' && arg.type.is !== 'null')
          refuse(places[i] ?? at, `${name} takes a list here, and this is ${sayType(arg.type)}`)
        const next = either(of, isList && arg.type.is === 'list' ? arg.type.of : arg.type)
        if (!next) refuse(places[i] ?? at, `a list holds values of one kind, and this is ${sayType(arg.type)}`)
        else of = next
      })
      const runs = args.map((arg) => arg.run)
      return {
        type: listOf(of),
        run: (env) => {
          const all: FeelValue[] = []
          for (const [i, run] of runs.entries()) {
            const given = run(env)
            if (lists || i === 0) {
              if (given === null) return null
              spend(env, (given as readonly FeelValue[]).length)
              for (const one of given as readonly FeelValue[]) all.push(one)
            } else all.push(given)
          }
          return made(all, env)
        },
      }
    },
  }
}

/** DMN 1.3, 10.3.4.4. */
export const LIST_FUNCTIONS: readonly FeelFunction[] = [
  overList(
    'count',
    'number of values',
    () => true,
    'anything',
    () => NUMBER,
    (list) => list.length,
  ),
  overList('sum', 'the total', isSum, 'numbers or spans', itself, (list) => {
    const all = nums(list)
    return all && total(all)
  }),
  overList(
    'product',
    'the product',
    isNumber,
    'numbers',
    () => NUMBER,
    (list) => {
      const all = nums(list)
      return all && all.reduce((made, one) => times(made, one), 1)
    },
  ),
  overList(
    'mean',
    'the average',
    isNumber,
    'numbers',
    () => NUMBER,
    (list) => {
      const all = nums(list)
      return all && over(total(all), all.length)
    },
  ),
  overList(
    'median',
    'the median',
    isNumber,
    'numbers',
    () => NUMBER,
    (list) => {
      const all = nums(list)
      return all && median(all)
    },
  ),
  overList('min', 'the lowest', isOrdered, 'values with an order', itself, (list) => most(list, -1)),
  overList('max', 'the highest', isOrdered, 'values with an order', itself, (list) => most(list, 1)),
  overList(
    'all',
    'true if all are true',
    ({ is }) => is === 'boolean',
    'yes and no',
    () => BOOLEAN,
    (list) => (list.some((one) => one === false) ? false : list.some((one) => one === null) ? null : true),
  ),
  overList(
    'any',
    'true if one is true',
    ({ is }) => is === 'boolean',
    'yes and no',
    () => BOOLEAN,
    (list) => (list.some((one) => one === true) ? true : list.some((one) => one === null) ? null : false),
  ),
  overList('distinct values', 'each value once', () => true, 'anything', listOf, distinct),
  overList(
    'reverse',
    'in reverse order',
    () => true,
    'anything',
    listOf,
    (list) => [...list].reverse(),
  ),
  joined('concatenate', 'lists', 'several lists joined into one', true),
  joined('union', 'lists', 'several lists joined, each value once', true, 1, distinct),
  joined('append', 'list, values', 'a list with more values added', false),
  {
    name: 'list contains',
    takes: 'list contains(list, value)',
    does: 'true if the list has the value',
    build(args, places, at) {
      const [list, value] = args
      if (!list || !value || args.length > 2) return refuse(at, 'list contains takes a list and a value')
      if (list.type.is !== 'list' && list.type.is !== 'null')
        return refuse(places[0] ?? at, `list contains takes a list, and this is ${sayType(list.type)}`)
      if (list.type.is === 'list' && !alike(list.type.of, value.type))
        return refuse(
          places[1] ?? at,
          `the list holds ${sayType(list.type.of)} each, and this is ${sayType(value.type)}`,
        )
      return {
        type: BOOLEAN,
        run: (env) => {
          const all = list.run(env) as readonly FeelValue[] | null
          const one = value.run(env)
          if (all === null) return null
          spendGiven(env, all)
          return all.some((other) => same(one, other, env))
        },
      }
    },
  },
  {
    name: 'index of',
    takes: 'index of(list, value)',
    does: 'positions of a value in the list',
    build(args, places, at) {
      const [list, value] = args
      if (!list || !value || args.length > 2) return refuse(at, 'index of takes a list and a value')
      if (list.type.is !== 'list' || !alike(list.type.of, value.type))
        return refuse(places[0] ?? at, `index of takes a list of such values, and this is ${sayType(list.type)}`)
      return {
        type: listOf(NUMBER),
        run: (env) => {
          const all = list.run(env) as readonly FeelValue[] | null
          const one = value.run(env)
          if (all === null) return null
          spendGiven(env, all)
          return all.flatMap((other, i) => (same(one, other, env) ? [i + 1] : []))
        },
      }
    },
  },
  {
    name: 'sublist',
    takes: 'sublist(list, from, count)',
    does: 'part of a list, from position 1',
    build(args, places, at) {
      const [list, from, count] = args
      if (!list || !from || args.length > 3) return refuse(at, 'sublist takes a list, a place and a count')
      if (list.type.is !== 'list')
        return refuse(places[0] ?? at, `sublist takes a list, and this is ${sayType(list.type)}`)
      if (from.type.is !== 'number') return refuse(places[1] ?? at, 'sublist counts its places with numbers')
      if (count && count.type.is !== 'number') return refuse(places[2] ?? at, 'sublist counts with numbers')
      return {
        type: list.type,
        run: (env) => {
          const all = list.run(env) as readonly FeelValue[] | null
          const start = from.run(env)
          const many = count ? count.run(env) : Infinity
          if (all === null || start === null || many === null || start === 0) return null
          spendGiven(env, all)
          const at0 = Number(start) > 0 ? Number(start) - 1 : all.length + Number(start)
          return at0 < 0 || at0 >= all.length ? null : all.slice(at0, at0 + Number(many))
        },
      }
    },
  },
  {
    name: 'is',
    takes: 'is(value, value)',
    does: 'true if both are the same value of the same kind',
    build(args, _places, at) {
      const [a, b] = args
      if (!a || !b || args.length > 2) return refuse(at, `is takes two values, but has ${args.length}.`)
      // Values of different kinds are never the same (DMN 1.3, 10.3.4.7); comparing them by “=” is refused.
      const ofOneKind = alike(a.type, b.type)
      return {
        type: BOOLEAN,
        run: (env) => {
          const [x, y] = [a.run(env), b.run(env)]
          return x === null || y === null ? x === y : ofOneKind && same(x, y, env)
        },
      }
    },
  },
  plain('not', 'yes or no', 'the opposite', { takes: [BOOLEAN], gives: BOOLEAN, run: ([x]) => x !== true }),
]
