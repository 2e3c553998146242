import { compileGroup, type CompiledGroup } from '../conditions/compile'
import { addGroup, nothing, type Depends } from '../derived/depends'
import type { Catalogue } from '../fields/catalogue'
import type { RuleDocument } from '../rules/document'
import { goalKey } from '../rules/goal'

/** The target of a rule as it is asked again and again. */
export interface CompiledGoal {
  readonly key: string
  readonly days: number
  readonly alone: number
  readonly test: CompiledGroup['test']
  readonly depends: Depends
}

/** The target of a rule, compiled; `null` where it has none. */
export function compileGoal({ goal, object }: RuleDocument, catalogue: Catalogue): CompiledGoal | null {
  if (!goal || goal.conditions.items.length === 0 || object === 'none') return null
  const depends = nothing()
  addGroup(depends, goal.conditions, object, catalogue)
  const { test } = compileGroup(goal.conditions, object, catalogue)
  return { key: goalKey(goal), days: goal.days, alone: goal.alone, test, depends }
}
