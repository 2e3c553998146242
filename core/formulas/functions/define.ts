import { count } from '../../language/counts'
import { faulty, spendGiven, type Built, type Env } from '../build'
import { refuse, type Span } from '../problems'
import { alike, either, listOf, NULL, sayType, type FeelType, type FeelValue } from '../types'

/** One function of formulas. A new one is an entry in a file of this folder. */
export interface FeelFunction {
  readonly name: string
  /** What it takes, as it is shown while writing: "sum(list)". */
  readonly takes: string
  /** What it does, in a few words. */
  readonly does: string
  /** Where it comes to something else every day. */
  readonly looksAt?: 'today' | 'now'
  /** Checks what it is given and says how it is worked out. `places` are those of the arguments. */
  build(args: readonly Built[], places: readonly Span[], at: Span): Built
}

export interface Signature {
  readonly takes: readonly FeelType[]
  /** How many of those at the end may be left out. */
  readonly optional?: number
  readonly gives: FeelType
  /** Never called with something empty: an empty argument makes the result empty. */
  readonly run: (args: readonly FeelValue[], env: Env) => FeelValue
}

/** A function of fixed arguments; of several signatures the first that fits counts. */
export function plain(
  name: string,
  takes: string,
  does: string,
  ...signatures: readonly [Signature, ...Signature[]]
): FeelFunction {
  return {
    name,
    takes: `${name}(${takes})`,
    does,
    build(args, places, at) {
      const counted = signatures.filter(
        (one) => args.length <= one.takes.length && args.length >= one.takes.length - (one.optional ?? 0),
      )
      const [first] = counted
      if (!first) return refuse(at, `${name}(${takes}) needs ${countWords(signatures)}, but has ${args.length}.`)
      const found = counted.find((one) => args.every((arg, i) => alike(arg.type, one.takes[i] ?? NULL)))
      if (!found) {
        const wrong = args.findIndex((arg, i) => !alike(arg.type, first.takes[i] ?? NULL))
        return refuse(
          places[wrong] ?? at,
          `${name} needs ${[...new Set(counted.map((one) => sayType(one.takes[wrong] ?? NULL)))].join(' or ')} here, but this is ${sayType(args[wrong]?.type ?? NULL)}.`,
        )
      }
      const runs = args.map((arg) => arg.run)
      const { gives, run } = found
      // Everything it needs is there: what it makes nothing of is no empty value.
      const ran = (given: readonly FeelValue[], env: Env): FeelValue =>
        run(given, env) ?? faulty(env, { code: 'unfit', name, given: sayGiven(given) })
      const [only] = runs
      if (runs.length === 1 && only)
        return {
          type: gives,
          run: (env) => {
            const x = only(env)
            if (x === null) return null
            spendGiven(env, x)
            return ran([x], env)
          },
        }
      return {
        type: gives,
        run: (env) => {
          const given: FeelValue[] = []
          for (const one of runs) {
            const x = one(env)
            if (x === null) return null
            spendGiven(env, x)
            given.push(x)
          }
          return ran(given, env)
        },
      }
    },
  }
}

/** So much of what was given is said. */
const GIVEN_MOST = 60

const sayGiven = (given: readonly FeelValue[]): string => {
  const said = given
    .map((one) => (typeof one === 'string' ? `“${one}”` : typeof one === 'number' ? String(one) : '…'))
    .join(', ')
  return said.length > GIVEN_MOST ? `${said.slice(0, GIVEN_MOST)}…` : said
}

function countWords(signatures: readonly Signature[]): string {
  const counts = signatures.flatMap((one) =>
    Array.from({ length: (one.optional ?? 0) + 1 }, (_, i) => one.takes.length - i),
  )
  const [least, most] = [Math.min(...counts), Math.max(...counts)]
  return least === most ? count(least, 'value') : `${least} to ${most} values`
}

/** The list that a function is given: as one list, or as its values one after the other. */
export function asList(
  name: string,
  args: readonly Built[],
  places: readonly Span[],
  at: Span,
): { readonly of: FeelType; readonly run: (env: Env) => readonly FeelValue[] | null } {
  const [first] = args
  if (!first) return refuse(at, `${name} needs a list, or several values.`)
  if (args.length === 1 && (first.type.is === 'list' || first.type.is === 'null')) {
    const { run } = first
    return {
      of: first.type.is === 'list' ? first.type.of : NULL,
      run: (env) => run(env) as readonly FeelValue[] | null,
    }
  }
  let of: FeelType = NULL
  args.forEach((arg, i) => {
    const next = either(of, arg.type)
    if (!next)
      refuse(
        places[i] ?? at,
        `All values of ${name} must have the same type. This is ${sayType(arg.type)}, the others are ${sayType(of)}.`,
      )
    else of = next
  })
  const runs = args.map((arg) => arg.run)
  return { of, run: (env) => runs.map((run) => run(env)) }
}

/** A function of a list of values of some kinds. */
export function overList(
  name: string,
  does: string,
  fits: (of: FeelType) => boolean,
  wanted: string,
  gives: (of: FeelType) => FeelType,
  run: (list: readonly FeelValue[], env: Env) => FeelValue,
): FeelFunction {
  return {
    name,
    takes: `${name}(list)`,
    does,
    build(args, places, at) {
      const { of, run: read } = asList(name, args, places, at)
      if (of.is !== 'null' && !fits(of))
        refuse(places[0] ?? at, `${name} needs a list of ${wanted}, but this is ${sayType(listOf(of))}.`)
      return {
        type: gives(of),
        run: (env) => {
          const list = read(env)
          if (list === null) return null
          spendGiven(env, list)
          return run(list, env)
        },
      }
    },
  }
}
