import type { SyntaxNode } from '@lezer/common'
import type { Catalogue } from '../fields/catalogue'
import type { ObjectKind } from '../records/kinds'
import { children, parseFormula } from './parse'
import { BrokenFormula } from './problems'
import { fieldWord } from '../fields/say-value'

/**
 * What the sign of a difference of dates means, in words; `null` where a formula holds none. The commonest mistake in
 * formulas is a subtraction the wrong way round, and nothing but words shows it.
 */
export function readingOf(text: string, object: ObjectKind, catalogue: Catalogue): string | null {
  try {
    return difference(parseFormula(text), text, object, catalogue)
  } catch (error) {
    if (error instanceof BrokenFormula) return null
    throw error
  }
}

type Side = { readonly today: true } | { readonly label: string }

function difference(node: SyntaxNode, text: string, object: ObjectKind, catalogue: Catalogue): string | null {
  const parts = children(node)
  const [left, sign, right] = parts
  if (node.name === 'ArithmeticExpression' && left && right && sign && text.slice(sign.from, sign.to) === '-') {
    const [a, b] = [sideOf(left, text, object, catalogue), sideOf(right, text, object, catalogue)]
    if (a && b) return said(a, b)
  }
  for (const part of parts) {
    const found = difference(part, text, object, catalogue)
    if (found !== null) return found
  }
  return null
}

function sideOf(node: SyntaxNode, text: string, object: ObjectKind, catalogue: Catalogue): Side | null {
  const written = text.slice(node.from, node.to).replace(/\s/g, '')
  if (/^(today|now)\(\)$/.test(written)) return { today: true }
  const field = catalogue.field(object, written.replace(/^date\((\w+)\)$/, '$1'))
  return field && (field.type === 'date' || field.type === 'dateTime') ? { label: fieldWord(field) ?? field.key } : null
}

function said(a: Side, b: Side): string | null {
  if ('today' in a && 'label' in b)
    return `Above 0 when the ${b.label} is in the past, below 0 when it is in the future.`
  if ('label' in a && 'today' in b)
    return `Above 0 when the ${a.label} is in the future, below 0 when it is in the past.`
  if ('label' in a && 'label' in b)
    return `Above 0 when the ${a.label} is after the ${b.label}, below 0 when it is before.`
  return null
}
