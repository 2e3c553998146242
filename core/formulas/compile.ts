import type { SyntaxNode } from '@lezer/common'
import type { Catalogue } from '../fields/catalogue'
import type { ObjectKind } from '../records/kinds'
import { isEitherWayLinkable } from '../records/record'
import { any, arithmetic, both, compare, known, negative, same, type ArithmeticOp, type CompareOp } from './operators'
import { constant, spend, type Built, type Building, type Run, type Scope, type Uses } from './build'
import { functionNamed, FUNCTIONS } from './functions'
import { placesOfNames } from './functions/parameters'
import { literalAt } from './functions/dates'
import { children } from './parse'
import { refuse, wants } from './problems'
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
  type FeelRange,
  type FeelType,
  type FeelValue,
} from './types'
import { path, filter, loop, quantified, sorted, contextLiteral } from './collections'
import { reader, at, textOf, inner, nth, stringOf, nearest, isExpression } from './nodes'

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
      const read = reader(field, catalogue)
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

export function build(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
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
    // A range that stands by itself, as an argument, is wrapped by the grammar.
    case 'SimplePositiveUnaryTest':
      if (parts.length === 1 && parts[0]?.name === 'Interval') return go(parts[0])
      return refuse(at(node), `“${textOf(b, node).slice(0, 40)}” is not supported in formulas.`)
    default:
      return refuse(
        at(node),
        `${LEFT_OUT[node.name] ?? `“${textOf(b, node).slice(0, 40)}”`} is not supported in formulas.`,
      )
  }
}

const LEFT_OUT: Readonly<Record<string, string>> = {
  FunctionDefinition: 'a function of one’s own',
  InstanceOfExpression: '“instance of”',
  Wildcard: '“-”',
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

function arithmeticOf(b: Building, node: SyntaxNode, go: (node: SyntaxNode) => Built): Built {
  const parts = inner(node)
  const op = children(node).find((child) => child.name === 'ArithOp')
  if (!op) return refuse(at(node), 'An operator is missing here.')
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
      `“then” gives ${sayType(then.type)} and “else” gives ${sayType(otherwise.type)}. Both must have the same type.`,
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
  if (word?.name !== 'in') return refuse(at(node), 'This comparison is not valid.')
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

const BRACKETED: ReadonlySet<string> = new Set([
  'PositiveUnaryTest',
  'SimplePositiveUnaryTest',
  'ParenthesizedExpression',
])

/** One of the things behind "in": a value, a range, `< 5`, a list. */
function unaryTest(b: Building, node: SyntaxNode, value: Built, scope: Scope, depth: number): Run {
  const parts = children(node)
  const [first, second] = parts
  // Brackets around a single test hold that test.
  const [only, more] = node.name === 'ParenthesizedExpression' ? inner(node) : []
  if (only && !more && BRACKETED.has(only.name)) return unaryTest(b, only, value, scope, depth)
  if ((node.name === 'PositiveUnaryTest' || node.name === 'SimplePositiveUnaryTest') && first) {
    if (first.name === 'CompareOp' && second)
      return compare(textOf(b, first) as CompareOp, value, build(b, second, scope, depth), at(node)).run
    return unaryTest(b, first, value, scope, depth)
  }
  const built = build(b, node, scope, depth)
  const { run } = value
  if (built.type.is === 'range') {
    if (!alike(built.type.of, value.type))
      refuse(at(node), `${sayType(value.type)} can’t be between ${sayType(built.type.of)} and another.`)
    return (env) => {
      const x = run(env)
      return x === null ? null : within(x, built.run(env) as FeelRange)
    }
  }
  if (built.type.is === 'list' && value.type.is !== 'list') {
    if (!alike(built.type.of, value.type))
      refuse(at(node), `The list contains ${sayType(built.type.of)}, but you are looking for ${sayType(value.type)}.`)
    known(value, { type: built.type.of, run: built.run }, at(node))
    return (env) => {
      const x = run(env)
      const list = built.run(env) as readonly FeelValue[] | null
      return list === null ? null : list.some((one) => same(one, x, env))
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
      `Both ends of a range must have the same type, not ${sayType(low.type)} and ${sayType(high.type)}.`,
    )
  const text = textOf(b, node)
  const [fromIn, toIn] = [text.startsWith('['), text.endsWith(']')]
  return {
    type: { is: 'range', of },
    run: (env): FeelRange => ({ from: low.run(env), to: high.run(env), fromIn, toIn }),
  }
}

/** What a function is given, in its order: as it stands there, or by the names of what it takes. */
function argumentsOf(b: Building, node: SyntaxNode, name: string): readonly SyntaxNode[] {
  const list = children(node).find((child) => child.name === 'PositionalParameters' || child.name === 'NamedParameters')
  if (!list) return []
  if (list.name !== 'NamedParameters') return children(list).filter((child) => child.name !== ',')
  const given = children(list)
    .filter((child) => child.name === 'NamedParameter')
    .map((child) => ({
      name: textOf(b, nth(children(child), 0, child)),
      value: nth(inner(child), inner(child).length - 1, child),
    }))
  const places = placesOfNames(
    name,
    given.map((one) => one.name.replace(/\s+/g, ' ')),
  )
  if (typeof places === 'string') return refuse(at(list), places)
  const ordered: SyntaxNode[] = []
  given.forEach(({ value }, i) => (ordered[places[i] ?? 0] = value))
  return ordered
}

function call(b: Building, node: SyntaxNode, scope: Scope, depth: number): Built {
  const [named] = children(node)
  if (!named) return refuse(at(node), 'A function is missing here.')
  const name = textOf(b, named).replace(/\s+/g, ' ')
  if (name === 'sort') return sorted(b, node, scope, depth)
  const found = functionNamed(name)
  if (!found) {
    const close = FUNCTIONS.find((one) => one.name.replace(/\s/g, '') === name.toLowerCase().replace(/[\s_]/g, ''))
    return refuse(at(named), `There is no function “${name}”.${close ? ` Did you mean “${close.name}”?` : ''}`)
  }
  const given = argumentsOf(b, node, name)
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
        `All values of a list must have the same type. This is ${sayType(built.type)}, the others are ${sayType(of)}.`,
      )
    of = next
    return built.run
  })
  return {
    type: listOf(of),
    run: (env) => {
      spend(env, runs.length)
      return runs.map((run) => run(env))
    },
  }
}
