import type { SyntaxNode } from '@lezer/common'
import type { Catalogue } from '../fields/catalogue'
import type { Field } from '../fields/field'
import { isForeign, worthIn } from '../money/worth'
import type { Building } from './build'
import { dayOfText } from './calendar'
import { children } from './parse'
import { refuse, type Span } from './problems'
import type { FeelRecord, FeelValue } from './types'

/** Reads a field's value as a formula has it: amounts in the workspace's currency. */
export function reader(field: Field, catalogue: Catalogue): (values: FeelRecord['values']) => FeelValue {
  const { key } = field
  if (isForeign(field)) return worthIn(field, catalogue) as (values: FeelRecord['values']) => FeelValue
  if (field.type === 'date')
    return (values) => {
      const value = values[key]
      return typeof value === 'string' ? dayOfText(value) : null
    }
  return (values) => (values[key] ?? null) as FeelValue
}

export const at = (node: SyntaxNode): Span => ({ from: node.from, to: node.to })

export const textOf = ({ text }: Building, node: SyntaxNode): string => text.slice(node.from, node.to)

/** The parts that are expressions: words and signs between them are left out. */
export const inner = (node: SyntaxNode): readonly SyntaxNode[] =>
  children(node).filter((child) => isExpression(child) && child.name !== 'ArithOp' && child.name !== 'CompareOp')

export const nth = (nodes: readonly SyntaxNode[], i: number, of: SyntaxNode): SyntaxNode =>
  nodes[i] ?? refuse(at(of), 'Something is missing here.')

export const stringOf = (raw: string): string => {
  try {
    return JSON.parse(raw) as string
  } catch {
    return raw.slice(1, -1).replace(/\\"/g, '"')
  }
}

/** What was meant, perhaps: a field by its label, or a name that differs by little. */
export function nearest(name: string, { object, catalogue }: Building): string | null {
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

/** Words and signs are named in small letters, but for nothing, which is a value. */
export const isExpression = ({ name }: SyntaxNode): boolean => /^[A-Z]/.test(name) || name === 'null'
