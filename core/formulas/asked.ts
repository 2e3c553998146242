import type { Catalogue } from '../fields/catalogue'
import type { ObjectKind } from '../records/kinds'
import type { Compiled } from './compiled'

/** Letters of a formula, at the most. */
export const FORMULA_MOST = 2000

type Compile = (text: string, object: ObjectKind, catalogue: Catalogue) => Compiled

let compile: Compile | null = null
/** Hands in what reads formulas. It is large, so a page has it only when there is a formula on it. */
export function useFormulas(given: Compile): void {
  compile = given
}

const compiled = new WeakMap<Catalogue, Map<string, Compiled>>()

/** A formula of a condition or a rule, compiled once for a catalogue; `null` where nothing is there that reads any. */
export function formulaOf(text: string, object: ObjectKind, catalogue: Catalogue): Compiled | null {
  const known = compiled.get(catalogue) ?? new Map<string, Compiled>()
  compiled.set(catalogue, known)
  let found = known.get(`${object} ${text}`)
  if (!found && compile) known.set(`${object} ${text}`, (found = compile(text, object, catalogue)))
  return found ?? null
}

/** The same where it is to be worked out: then it must be there. */
export function formulaThere(text: string, object: ObjectKind, catalogue: Catalogue): Compiled {
  const found = formulaOf(text, object, catalogue)
  if (!found) throw new Error('formulas are asked for where none can be read')
  return found
}
