import type { SyntaxNode } from '@lezer/common'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import type { ObjectKind } from '../records/kinds'
import { isEitherWayLinkable } from '../records/record'
import { any, arithmetic, both, compare, known, negative, same, type ArithmeticOp, type CompareOp } from './operators'
import { constant, step, type Built, type Building, type Env, type Run, type Scope, type Uses } from './build'
import { dayOfText } from './calendar'
import { functionNamed, FUNCTIONS } from './functions'
import { literalAt } from './functions/dates'
import { children } from './parse'
import { propertyOf } from './properties'
import { refuse, wants, type Span } from './problems'
import {
  alike,
  BOOLEAN,
  either,
  isOrdered,
  listOf,
  NULL,
  NUMBER,
  sayType,
  STRING,
  typeOfField,
  type FeelContext,
  type FeelRange,
  type FeelRecord,
  type FeelType,
  type FeelValue,
} from './types'

/** Builds a formula's tree into closures, with the type of every part. Throws `BrokenFormula` at what does not fit. */

/** Linked records are named by their kind: `company` the main one, `companies` all of them. */
export const LINKED_NAMES: Readonly<Record<string, { readonly object: ObjectKind; readonly all: boolean }>> = {
  company: { object: 'company', all: false },
  companies: { object: 'company', all: true },
  contact: { object: 'contact', all: false },
  contacts: { object: 'contact', all: true },
  deal: { object: 'deal', all: false },
  deals: { object: 'deal', all: true },
}

/** Reads a field's value as a formula has it. */
function reader(field: Field): (values: FeelRecord['values']) => FeelValue {
  const { key } = field
  if (field.type === 'date')
    return (values) => {
      const value = values[key]
      return typeof value === 'string' ? dayOfText(value) : null
    }
  return (values) => (values[key] ?? null) as FeelValue
}

export function compileTree(
  root: SyntaxNode,
  text: string,
  object: ObjectKind,
  catalogue: Catalogue,
): { readonly built: Built; readonly uses: Uses } {
  const uses: Uses = { own: new Set(), linked: new Map(), today: false, now: false }
  const building: Building = {
    text,
    object,
    catalogue,
    uses,
    build: (node, scope, depth) => build(building, node, scope, depth),
  }
  return { built: building.build(root, ownScope(building), 0), uses }
}

/** Fields of the record, and its linked records. */
function ownScope({ object, catalogue, uses }: Building): Scope {
  return (name) => {
    const field = catalogue.field(object, name)
    if (field) {
      uses.own.add(name)
      const read = reader(field)
      return { type: typeOfField(field), run: (env) => read(env.subject.values) }
    }
    const linked = Object.hasOwn(LINKED_NAMES, name) ? LINKED_NAMES[name] : undefined
    if (!linked || !isEitherWayLinkable(object, linked.object)) return null
    if (!uses.linked.has(linked.object)) uses.linked.set(linked.object, new Set())
    return linked.all
      ? { type: listOf({ is: 'record', object: linked.object }), run: (env) => env.subject.linked(linked.object) }
      : { type: { is: 'record', object: linked.object }, run: (env) => env.subject.linked(linked.object)[0] ?? null }
  }
}

const at = (node: SyntaxNode): Span => ({ from: node.from, to: node.to })
const textOf = ({ text }: Building, node: SyntaxNode): string => text.slice(node.from, node.to)
/** Words and signs are named in small letters, but for nothing, which is a value. */
const isExpression = ({ name }: SyntaxNode): boolean => /^[A-Z]/.test(name) || name === 'null'
/** The parts that are expressions: words and signs between them are left out. */
const inner = (node: SyntaxNode): readonly SyntaxNode[] =>
  children(node).filter((child) => isExpression(child) && child.name !== 'ArithOp' && child.name !== 'CompareOp')
const nth = (nodes: readonly SyntaxNode[], i: number, of: SyntaxNode): SyntaxNode =>
  nodes[i] ?? refuse(at(of), 'something is missing here')

function build(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const go = (child: SyntaxNode): Built => build(b, child, scope, depth)
  const parts = inner(node)
  switch (node.name) {
    case 'NumericLiteral':
      return constant(NUMBER, Number(textOf(b, node).replace(/\s/g, '')))
    case 'StringLiteral':
      return constant(STRING, stringOf(textOf(b, node)))
    case 'BooleanLiteral':
      return constant(BOOLEAN, textOf(b, node) === 'true')
    case 'null':
      return constant(NULL, null)
    case 'ParenthesizedExpression':
      return go(nth(parts, 0, node))
    case 'VariableName':
      return variable(b, node, scope)
    case 'ArithmeticExpression':
      return arithmeticOf(b, node, go)
    case 'Comparison':
      return comparisonOf(b, node, scope, depth)
    case 'Conjunction':
    case 'Disjunction':
      return logic(node, go)
    case 'IfExpression':
      return conditional(node, go)
    case 'FunctionInvocation':
      return call(b, node, scope, depth)
    case 'DateTimeLiteral':
      return dateTimeLiteral(b, node, scope, depth)
    case 'PathExpression':
      return path(b, node, go)
    case 'FilterExpression':
      return filter(b, node, scope, depth)
    case 'List':
      return listLiteral(node, go)
    case 'Context':
      return contextLiteral(b, node, scope, depth)
    case 'ForExpression':
      return loop(b, node, scope, depth)
    case 'QuantifiedExpression':
      return quantified(b, node, scope, depth)
    case 'Interval':
      return interval(b, node, go)
    default:
      return refuse(
        at(node),
        `${LEFT_OUT[node.name] ?? `“${textOf(b, node).slice(0, 40)}”`} cannot be used in formulas here`,
      )
  }
}

const LEFT_OUT: Readonly<Record<string, string>> = {
  FunctionDefinition: 'a function of one’s own',
  InstanceOfExpression: '“instance of”',
  Wildcard: '“-”',
}

const stringOf = (raw: string): string => {
  try {
    return JSON.parse(raw) as string
  } catch {
    return raw.slice(1, -1).replace(/\\"/g, '"')
  }
}

function variable(b: Building, node: SyntaxNode, scope: Scope): Built {
  const name = textOf(b, node).replace(/\s+/g, ' ')
  const found = scope(name, at(node))
  if (found) return found
  const near = nearest(name, b)
  return refuse(
    at(node),
    `there is no “${name}” of a ${b.object}${functionNamed(name) ? `; a function is written with brackets: ${functionNamed(name)?.takes ?? ''}` : near === null ? '' : `; is “${near}” meant?`}`,
  )
}

/** What was meant, perhaps: a field by its label, or a name that differs by little. */
function nearest(name: string, { object, catalogue }: Building): string | null {
  const folded = name.toLowerCase().replace(/[\s_-]/g, '')
  const fields = catalogue.fields(object)
  const byLabel = fields.find(
    (field) => field.label.toLowerCase().replace(/[\s_-]/g, '') === folded || field.key.toLowerCase() === folded,
  )
  return (
    byLabel?.key ??
    fields.find((field) => field.key.toLowerCase().startsWith(folded.slice(0, 4)) && folded.length >= 4)?.key ??
    null
  )
}

function arithmeticOf(b: Building, node: SyntaxNode, go: (node: SyntaxNode) => Built): Built {
  const parts = inner(node)
  const op = children(node).find((child) => child.name === 'ArithOp')
  if (!op) return refuse(at(node), 'a sign is missing here')
  if (parts.length === 1) return negative(go(nth(parts, 0, node)), at(node))
  const sign = textOf(b, op)
  return arithmetic(sign as ArithmeticOp, go(nth(parts, 0, node)), go(nth(parts, 1, node)), at(node))
}

function logic(node: SyntaxNode, go: (node: SyntaxNode) => Built): Built {
  const [x, y] = [0, 1].map((i) => {
    const part = nth(inner(node), i, node)
    const built = go(part)
    if (built.type.is !== 'boolean' && built.type.is !== 'null')
      wants(at(part), node.name === 'Conjunction' ? '“and”' : '“or”', 'yes or no', built.type)
    return built.run
  }) as [Run, Run]
  return { type: BOOLEAN, run: node.name === 'Conjunction' ? both(x, y) : any(x, y) }
}

function conditional(node: SyntaxNode, go: (node: SyntaxNode) => Built): Built {
  const [question, then, otherwise] = [0, 1, 2].map((i) =>
    go(inner(node)[i] ?? refuse({ from: node.to - 1, to: node.to }, 'an “if” needs “then” and “else”')),
  ) as [Built, Built, Built]
  if (question.type.is !== 'boolean' && question.type.is !== 'null')
    wants(at(nth(inner(node), 0, node)), '“if”', 'yes or no', question.type)
  const type = either(then.type, otherwise.type)
  if (!type)
    return refuse(
      at(nth(inner(node), 2, node)),
      `“then” comes to ${sayType(then.type)} and “else” to ${sayType(otherwise.type)}: both must be the same`,
    )
  const [q, t, o] = [question.run, then.run, otherwise.run]
  return { type, run: (env) => (q(env) === true ? t(env) : o(env)) }
}

/** `a = b`, `a between b and c`, `a in …`. */
function comparisonOf(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const go = (child: SyntaxNode): Built => build(b, child, scope, depth)
  const all = children(node)
  const first = go(nth(all, 0, node))
  const word = all[1]
  if (word?.name === 'CompareOp') return compare(textOf(b, word) as CompareOp, first, go(nth(all, 2, node)), at(node))
  if (word?.name === 'between') {
    const [low, high] = [go(nth(all, 2, node)), go(nth(all, 4, node))]
    const [from, to] = [compare('>=', first, low, at(node)), compare('<=', first, high, at(node))]
    return { type: BOOLEAN, run: both(from.run, to.run) }
  }
  if (word?.name !== 'in') return refuse(at(node), 'this comparison does not read')
  const tests = all
    .slice(2)
    .filter(isExpression)
    .flatMap((child) => (child.name === 'PositiveUnaryTests' ? children(child).filter(isExpression) : [child]))
  const runs = tests.map((test) => unaryTest(b, test, first, scope, depth))
  const [only] = runs
  return {
    type: BOOLEAN,
    run:
      runs.length === 1 && only
        ? only
        : (env) =>
            runs.reduce<FeelValue>((found, run) => (found === true ? true : run(env) === true ? true : found), false),
  }
}

/** One of the things behind "in": a value, a range, `< 5`, a list. */
function unaryTest(b: Building, node: SyntaxNode, value: Built, scope: Scope, depth: number): Run {
  const parts = children(node)
  const [first, second] = parts
  if ((node.name === 'PositiveUnaryTest' || node.name === 'SimplePositiveUnaryTest') && first) {
    if (first.name === 'CompareOp' && second)
      return compare(textOf(b, first) as CompareOp, value, build(b, second, scope, depth), at(node)).run
    return unaryTest(b, first, value, scope, depth)
  }
  const built = build(b, node, scope, depth)
  const { run } = value
  if (built.type.is === 'range') {
    if (!alike(built.type.of, value.type))
      refuse(at(node), `${sayType(value.type)} is never between ${sayType(built.type.of)} and another`)
    return (env) => {
      const x = run(env)
      return x === null ? null : within(x, built.run(env) as FeelRange)
    }
  }
  if (built.type.is === 'list' && value.type.is !== 'list') {
    if (!alike(built.type.of, value.type))
      refuse(
        at(node),
        `the list holds ${sayType(built.type.of)} each, and what is looked for is ${sayType(value.type)}`,
      )
    known(value, { type: built.type.of, run: built.run }, at(node))
    return (env) => {
      const x = run(env)
      const list = built.run(env) as readonly FeelValue[] | null
      return list === null ? null : list.some((one) => same(one, x))
    }
  }
  return compare('=', value, built, at(node)).run
}

function within(x: FeelValue, { from, to, fromIn, toIn }: FeelRange): boolean | null {
  const [value, low, high] = [x, from, to] as [number, number | null, number | null]
  if (low === null || high === null) return null
  return (fromIn ? value >= low : value > low) && (toIn ? value <= high : value < high)
}

function interval(b: Building, node: SyntaxNode, go: (node: SyntaxNode) => Built): Built {
  const [low, high] = [go(nth(inner(node), 0, node)), go(nth(inner(node), 1, node))]
  const of = either(low.type, high.type)
  if (!of || (!isOrdered(of) && of.is !== 'null'))
    return refuse(
      at(node),
      `a range goes from one value to another of the same kind: here from ${sayType(low.type)} to ${sayType(high.type)}`,
    )
  const text = textOf(b, node)
  const [fromIn, toIn] = [text.startsWith('['), text.endsWith(']')]
  return {
    type: { is: 'range', of },
    run: (env): FeelRange => ({ from: low.run(env), to: high.run(env), fromIn, toIn }),
  }
}

function argumentsOf(b: Building, node: SyntaxNode): readonly SyntaxNode[] {
  const list = children(node).find((child) => child.name === 'PositionalParameters' || child.name === 'NamedParameters')
  if (list?.name === 'NamedParameters') return refuse(at(list), 'values are given without their names here')
  return list ? children(list).filter((child) => child.name !== ',') : []
}

function call(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const [named] = children(node)
  if (!named) return refuse(at(node), 'a function is missing here')
  const name = textOf(b, named).replace(/\s+/g, ' ')
  const found = functionNamed(name)
  if (!found) {
    const close = FUNCTIONS.find((one) => one.name.replace(/\s/g, '') === name.toLowerCase().replace(/[\s_]/g, ''))
    return refuse(at(named), `there is no function “${name}”${close ? `; is “${close.name}” meant?` : ''}`)
  }
  const given = argumentsOf(b, node)
  if (found.looksAt) b.uses[found.looksAt] = true
  return found.build(
    given.map((one) => build(b, one, scope, depth)),
    given.map(at),
    at(node),
  )
}

function dateTimeLiteral(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const [first] = children(node)
  if (first?.name === 'AtLiteral') return literalAt(stringOf(textOf(b, first).slice(1).trim()), at(node))
  return call(b, node, scope, depth)
}

function listLiteral(node: SyntaxNode, go: (node: SyntaxNode) => Built): Built {
  let of: FeelType = NULL
  const runs = inner(node).map((child) => {
    const built = go(child)
    const next = either(of, built.type)
    if (!next)
      return refuse(
        at(child),
        `a list holds values of one kind: this is ${sayType(built.type)}, and those before it are each ${sayType(of)}`,
      )
    of = next
    return built.run
  })
  return { type: listOf(of), run: (env) => runs.map((run) => run(env)) }
}

function contextLiteral(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const types: Record<string, FeelType> = {}
  const runs: [name: string, run: Run][] = []
  const slot = depth
  for (const entry of children(node).filter((child) => child.name === 'ContextEntry')) {
    const [key, value] = children(entry)
    if (!key || !value) return refuse(at(entry), 'something is missing here')
    const name = key.name === 'Key' && textOf(b, key).startsWith('"') ? stringOf(textOf(b, key)) : textOf(b, key)
    if (Object.hasOwn(types, name)) return refuse(at(key), `“${name}” stands twice`)
    const before = { ...types }
    // What stands further up can be used further down.
    const within0: Scope = (wanted, place) =>
      Object.hasOwn(before, wanted)
        ? { type: before[wanted] ?? NULL, run: (env) => (env.locals[slot] as FeelContext).entries[wanted] ?? null }
        : scope(wanted, place)
    const built = build(b, value, within0, depth + 1)
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
    const read = reader(field)
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

function path(b: Building, node: SyntaxNode, go: (node: SyntaxNode) => Built): Built {
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
function filter(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const [of, by] = [nth(inner(node), 0, node), nth(inner(node), 1, node)]
  const list = build(b, of, scope, depth)
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
  const test = build(b, by, inItem, depth + 1)
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
    if (!named || !from) return refuse(at(one), 'something is missing here')
    const name = textOf(b, named)
    const slot = depth + through.length
    const context = from.name === 'IterationContext' ? children(from) : [from]
    const outside = inside
    const [a, dots, z] = context
    let of: FeelType
    if (a && dots?.name === '..' && z) {
      const [low, high] = [build(b, a, outside, slot), build(b, z, outside, slot)]
      if (low.type.is !== 'number' || high.type.is !== 'number')
        return refuse(at(from), 'one goes from a number to a number')
      of = NUMBER
      through.push({ slot, run: (env) => numbersFrom(low.run(env), high.run(env), env) })
    } else {
      const list = build(b, a ?? from, outside, slot)
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
  for (let i = low; by > 0 ? i <= high : i >= high; i += by) {
    step(env)
    found.push(i)
  }
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

function loop(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const { through, scope: inside, depth: deeper } = iterations(b, node, scope, depth)
  const body = build(b, nth(inner(node), inner(node).length - 1, node), inside, deeper)
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

function quantified(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const some = children(node)[0]?.name === 'some'
  const { through, scope: inside, depth: deeper } = iterations(b, node, scope, depth)
  const last = nth(inner(node), inner(node).length - 1, node)
  const test = build(b, last, inside, deeper)
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
