import type { SyntaxNode } from '@lezer/common'
import {
  constant,
  FormulaTooLong,
  ITERATIONS_MOST,
  spend,
  step,
  type Built,
  type Building,
  type Env,
  type Run,
  type Scope,
} from './build'
import { children } from './parse'
import { propertyOf } from './properties'
import { refuse, wants, type Span } from './problems'
import {
  BOOLEAN,
  listOf,
  NULL,
  NUMBER,
  sayType,
  typeOfField,
  type FeelContext,
  type FeelRecord,
  type FeelType,
  type FeelValue,
} from './types'
import { reader, at, textOf, inner, nth, stringOf, nearest } from './nodes'
export function contextLiteral(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const types: Record<string, FeelType> = {}
  const runs: [name: string, run: Run][] = []
  const slot = depth
  for (const entry of children(node).filter((child) => child.name === 'ContextEntry')) {
    const [key, value] = children(entry)
    if (!key || !value) return refuse(at(entry), 'Something is missing here.')
    const name = key.name === 'Key' && textOf(b, key).startsWith('"') ? stringOf(textOf(b, key)) : textOf(b, key)
    if (Object.hasOwn(types, name)) return refuse(at(key), `“${name}” is used twice.`)
    const before = { ...types }
    // What stands further up can be used further down.
    const within0: Scope = (wanted, place) =>
      Object.hasOwn(before, wanted)
        ? { type: before[wanted] ?? NULL, run: (env) => (env.locals[slot] as FeelContext).entries[wanted] ?? null }
        : scope(wanted, place)
    const built = b.build(value, within0, depth + 1)
    types[name] = built.type
    runs.push([name, built.run])
  }
  return {
    type: { is: 'context', entries: types },
    run: (env) => {
      const entries: Record<string, FeelValue> = {}
      const made: FeelContext = { entries }
      const kept = env.locals[slot] ?? null
      for (const [name, run] of runs) {
        env.locals[slot] = made
        entries[name] = run(env)
      }
      env.locals[slot] = kept
      return made
    },
  }
}

/** What stands behind a point, of a value of some type. */
function member(
  b: Building,
  of: FeelType,
  name: string,
  span: Span,
): { readonly type: FeelType; readonly read: (value: FeelValue, env: Env) => FeelValue } {
  if (of.is === 'record') {
    const field = b.catalogue.field(of.object, name)
    if (!field)
      return refuse(
        span,
        `there is no “${name}” of a ${of.object}${nearest(name, { ...b, object: of.object }) === null ? '' : `; is “${nearest(name, { ...b, object: of.object }) ?? ''}” meant?`}`,
      )
    b.uses.linked.get(of.object)?.add(name)
    const read = reader(field, b.catalogue)
    return { type: typeOfField(field), read: (value) => (value === null ? null : read((value as FeelRecord).values)) }
  }
  if (of.is === 'context') {
    if (!Object.hasOwn(of.entries, name))
      return refuse(span, `there is no “${name}” in it; there is ${Object.keys(of.entries).join(', ')}`)
    return {
      type: of.entries[name] ?? NULL,
      read: (value) => (value === null ? null : ((value as FeelContext).entries[name] ?? null)),
    }
  }
  const property = propertyOf(of, name)
  if (!property) return refuse(span, `${sayType(of)} has no “${name}”`)
  return { type: property.type, read: (value, env) => (value === null ? null : property.read(value, env)) }
}

export function path(b: Building, node: SyntaxNode, go: (node: SyntaxNode) => Built): Built {
  const parts = inner(node)
  const [of, name] = [nth(parts, 0, node), nth(parts, 1, node)]
  const built = go(of)
  const { run } = built
  if (built.type.is === 'null') return constant(NULL, null)
  if (built.type.is === 'list') {
    const { type, read } = member(b, built.type.of, textOf(b, name), at(name))
    return {
      type: listOf(type),
      run: (env) => {
        const list = run(env) as readonly FeelValue[] | null
        return (
          list &&
          list.map((one) => {
            step(env)
            return read(one, env)
          })
        )
      },
    }
  }
  const { type, read } = member(b, built.type, textOf(b, name), at(name))
  return { type, run: (env) => read(run(env), env) }
}

/** `list[2]`, counted from 1 or from the end; `list[amount > 5]`, with `item` for each of them. */
export function filter(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const [of, by] = [nth(inner(node), 0, node), nth(inner(node), 1, node)]
  const list = b.build(of, scope, depth)
  if (list.type.is !== 'list') return refuse(at(of), `[…] picks from a list, and this is ${sayType(list.type)}`)
  const item = list.type.of
  const inItem: Scope = (name, place) => {
    if (name === 'item') return { type: item, run: (env) => env.locals[depth] ?? null }
    const isMember =
      item.is === 'record'
        ? b.catalogue.field(item.object, name) !== null
        : item.is === 'context' && Object.hasOwn(item.entries, name)
    if (!isMember) return scope(name, place)
    const { type, read } = member(b, item, name, place)
    return { type, run: (env) => read(env.locals[depth] ?? null, env) }
  }
  const test = b.build(by, inItem, depth + 1)
  const { run } = list
  if (test.type.is === 'number') {
    return {
      type: item,
      run: (env) => {
        const all = run(env) as readonly FeelValue[] | null
        const place = Number(test.run(env))
        return all === null ? null : (all[place > 0 ? place - 1 : all.length + place] ?? null)
      },
    }
  }
  if (test.type.is !== 'boolean' && test.type.is !== 'null')
    return wants(at(by), '[…]', 'a place or yes or no', test.type)
  return {
    type: list.type,
    run: (env) => {
      const all = run(env) as readonly FeelValue[] | null
      if (all === null) return null
      return going(env, depth, all, (one, found: FeelValue[]) => {
        if (test.run(env) === true) found.push(one)
      })
    },
  }
}

/** Goes through values, each of them under its name. */
function going(
  env: Env,
  slot: number,
  all: readonly FeelValue[],
  each: (one: FeelValue, found: FeelValue[]) => void,
): FeelValue[] {
  const kept = env.locals[slot] ?? null
  const found: FeelValue[] = []
  for (const one of all) {
    step(env)
    env.locals[slot] = one
    each(one, found)
  }
  env.locals[slot] = kept
  return found
}

interface Through {
  readonly slot: number
  readonly run: (env: Env) => readonly FeelValue[] | null
}

/** "x in list, y in list": what is gone through, and the names inside. */
function iterations(
  b: Building,
  node: SyntaxNode,
  scope: Scope,
  depth: number,
): { readonly through: readonly Through[]; readonly scope: Scope; readonly depth: number } {
  const expressions = children(node).find((child) => child.name === 'InExpressions')
  const through: Through[] = []
  let inside = scope
  for (const one of expressions ? children(expressions).filter((child) => child.name === 'InExpression') : []) {
    const parts = children(one)
    const [named, , from] = parts
    if (!named || !from) return refuse(at(one), 'Something is missing here.')
    const name = textOf(b, named)
    const slot = depth + through.length
    const context = from.name === 'IterationContext' ? children(from) : [from]
    const outside = inside
    const [a, dots, z] = context
    let of: FeelType
    if (a && dots?.name === '..' && z) {
      const [low, high] = [b.build(a, outside, slot), b.build(z, outside, slot)]
      if (low.type.is !== 'number' || high.type.is !== 'number')
        return refuse(at(from), 'The range of “for” needs two numbers.')
      of = NUMBER
      through.push({ slot, run: (env) => numbersFrom(low.run(env), high.run(env), env) })
    } else {
      const list = b.build(a ?? from, outside, slot)
      if (list.type.is !== 'list') return refuse(at(from), `one goes through a list, and this is ${sayType(list.type)}`)
      of = list.type.of
      through.push({ slot, run: list.run as Through['run'] })
    }
    const type = of
    inside = (wanted, place) =>
      wanted === name ? { type, run: (env) => env.locals[slot] ?? null } : outside(wanted, place)
  }
  return { through, scope: inside, depth: depth + through.length }
}

function numbersFrom(low: FeelValue, high: FeelValue, env: Env): readonly number[] | null {
  if (typeof low !== 'number' || typeof high !== 'number') return null
  const found: number[] = []
  const by = low <= high ? 1 : -1
  // They are counted when they are gone through; more than may be are not even made.
  if (Math.abs(high - low) >= env.left) throw new FormulaTooLong(ITERATIONS_MOST)
  for (let i = low; by > 0 ? i <= high : i >= high; i += by) found.push(i)
  return found
}

/** Calls `each` for every combination; ends when it answers `false`. `null` when there is nothing to go through. */
function combine(env: Env, through: readonly Through[], each: () => boolean, i = 0): boolean | null {
  const one = through[i]
  if (!one) return each()
  const list = one.run(env)
  if (list === null) return null
  const kept = env.locals[one.slot] ?? null
  let on: boolean | null = true
  for (const value of list) {
    step(env)
    env.locals[one.slot] = value
    on = combine(env, through, each, i + 1)
    if (on !== true) break
  }
  env.locals[one.slot] = kept
  return on
}

export function loop(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const { through, scope: inside, depth: deeper } = iterations(b, node, scope, depth)
  const body = b.build(nth(inner(node), inner(node).length - 1, node), inside, deeper)
  return {
    type: listOf(body.type),
    run: (env) => {
      const found: FeelValue[] = []
      return combine(env, through, () => {
        found.push(body.run(env))
        return true
      }) === null
        ? null
        : found
    },
  }
}

export function quantified(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const some = children(node)[0]?.name === 'some'
  const { through, scope: inside, depth: deeper } = iterations(b, node, scope, depth)
  const last = nth(inner(node), inner(node).length - 1, node)
  const test = b.build(last, inside, deeper)
  if (test.type.is !== 'boolean' && test.type.is !== 'null')
    return wants(at(last), '“satisfies”', 'yes or no', test.type)
  return {
    type: BOOLEAN,
    run: (env) => {
      let open = false
      let decided: boolean | null = null
      const on = combine(env, through, () => {
        const holds = test.run(env)
        if (holds === null) open = true
        if (holds === some) decided = some
        return decided === null
      })
      return on === null ? null : decided !== null ? decided : open ? null : !some
    },
  }
}

/**
 * `sort(list, function(a, b) a < b)`: the one place where a function of one's own stands, as it says which comes first
 * (DMN 1.3, 10.3.4.7). Values of which neither comes first keep their order.
 */
export function sorted(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const given = children(node).find((child) => child.name === 'PositionalParameters')
  const [of, by, more] = given ? children(given).filter((child) => child.name !== ',') : []
  if (!of || !by || more) return refuse(at(node), 'sort takes a list and a function: sort(list, function(a, b) a < b)')
  const list = b.build(of, scope, depth)
  if (list.type.is !== 'list') return refuse(at(of), `sort takes a list, and this is ${sayType(list.type)}`)
  const parts = by.name === 'FunctionDefinition' ? children(by) : []
  const names = children(parts.find((child) => child.name === 'FormalParameters') ?? by).filter(
    (child) => child.name === 'FormalParameter',
  )
  const body = parts.find((child) => child.name === 'FunctionBody')
  const [first, second] = names
  if (!first || !second || names.length > 2 || !body)
    return refuse(at(by), 'sort takes a function of two values: function(a, b) a < b')
  const item = list.type.of
  const named = [first, second].map((one) => textOf(b, one))
  const inside: Scope = (wanted, place) => {
    const slot = named.indexOf(wanted)
    return slot < 0 ? scope(wanted, place) : { type: item, run: (env) => env.locals[depth + slot] ?? null }
  }
  const before = b.build(nth(children(body), 0, body), inside, depth + 2)
  if (before.type.is !== 'boolean' && before.type.is !== 'null')
    return wants(at(body), 'the function of sort', 'yes or no', before.type)
  return {
    type: list.type,
    run: (env) => {
      const all = list.run(env) as readonly FeelValue[] | null
      if (all === null) return null
      const kept = [env.locals[depth] ?? null, env.locals[depth + 1] ?? null] as const
      const precedes = (x: FeelValue, y: FeelValue): boolean => {
        spend(env, 1)
        env.locals[depth] = x
        env.locals[depth + 1] = y
        return before.run(env) === true
      }
      const found = [...all].sort((x, y) => (precedes(x, y) ? -1 : precedes(y, x) ? 1 : 0))
      env.locals[depth] = kept[0]
      env.locals[depth + 1] = kept[1]
      return found
    },
  }
}
