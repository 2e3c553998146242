import { DATE_FUNCTIONS } from './dates'
import type { FeelFunction } from './define'
import { LIST_FUNCTIONS } from './lists'
import { NUMBER_FUNCTIONS } from './numbers'
import { PATTERN_FUNCTIONS } from './patterns'
import { RANGE_FUNCTIONS } from './ranges'
import { SET_FUNCTIONS } from './sets'
import { TEXT_FUNCTIONS } from './texts'

/** Every function there is. */
export const FUNCTIONS: readonly FeelFunction[] = [
  ...NUMBER_FUNCTIONS,
  ...DATE_FUNCTIONS,
  ...TEXT_FUNCTIONS,
  ...LIST_FUNCTIONS,
  ...SET_FUNCTIONS,
  ...RANGE_FUNCTIONS,
  ...PATTERN_FUNCTIONS,
]

const byName = new Map(FUNCTIONS.map((one) => [one.name, one]))
export const functionNamed = (name: string): FeelFunction | null => byName.get(name) ?? null
