import type { StepKind } from '../step'
import { createTask } from './create-task'
import { moveStage } from './move-stage'
import { setField } from './set-field'

/** Every step kind, in the order in which they are offered. A new kind is its folder and its name here. */
const rows = { setField, moveStage, createTask }

export type StepName = keyof typeof rows
export const STEPS: { readonly [K in StepName]: StepKind<K> } = rows
export const STEP_NAMES = Object.keys(rows) as readonly StepName[]
