import { STEPS, type StepName } from '.'
import { makesTask } from './create-task/task'

/** Whether a kind of step does something itself, and does not only choose a way, wait or end the run. */
export const doesSomething = (kind: StepName): boolean => {
  const { ways, category } = STEPS[kind]
  return makesTask({ kind }) || ways?.made === true || (ways === null && kind !== 'stop' && category !== 'time')
}
