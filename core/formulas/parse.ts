import type { SyntaxNode } from '@lezer/common'
import { parser, trackVariables } from 'lezer-feel'
import { FORMULA_MOST } from './asked'
import { BrokenFormula, type FormulaProblem } from './problems'

const expressions = parser.configure({ top: 'Expression', contextTracker: trackVariables({}) })

/** The tree of a formula's text; throws `BrokenFormula` at the first place that does not read. */
export function parseFormula(text: string): SyntaxNode {
  if (text.length > FORMULA_MOST)
    throw new BrokenFormula({
      from: FORMULA_MOST,
      to: text.length,
      text: `A formula can have at most ${FORMULA_MOST.toLocaleString('en')} characters.`,
    })
  const tree = expressions.parse(text)
  let problem: FormulaProblem | null = null
  tree.iterate({
    enter(node) {
      if (problem === null && node.type.isError) problem = brokenAt(text, node.from, node.to)
    },
  })
  if (problem !== null) throw new BrokenFormula(problem)
  const [first] = children(tree.topNode)
  if (!first) throw new BrokenFormula({ from: 0, to: text.length, text: 'Enter a formula.' })
  return first
}

function brokenAt(text: string, from: number, to: number): FormulaProblem {
  if (from === to) {
    const rest = text.slice(from).trim()
    return rest === ''
      ? { from: Math.max(0, text.trimEnd().length - 1), to: text.length, text: 'Something is missing after this.' }
      : { from, to: Math.min(text.length, from + 1), text: 'Something is missing here.' }
  }
  const piece = text.slice(from, to)
  if (piece.startsWith('"')) return { from, to: text.length, text: 'Closing double quote missing.' }
  return {
    from,
    to,
    text: piece.includes("'")
      ? 'Use double quotes for text: "like this".'
      : `“${piece.slice(0, 40)}” is not expected here.`,
  }
}

/** The parts of a node, comments left out. */
export function children(node: SyntaxNode): readonly SyntaxNode[] {
  const found: SyntaxNode[] = []
  for (let child = node.firstChild; child; child = child.nextSibling)
    if (child.name !== 'LineComment' && child.name !== 'BlockComment') found.push(child)
  return found
}
