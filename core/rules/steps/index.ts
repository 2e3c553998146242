import type { StepKind } from '../step'
import * as rows from './all'

export type StepName = keyof typeof rows
/** By kind. A line whose name is not its kind does not compile. */
export const STEPS: { readonly [K in StepName]: StepKind<K> } = rows
export const STEP_NAMES = Object.keys(rows) as readonly StepName[]
