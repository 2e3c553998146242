import { STEPS } from '../steps'
import { doesSomething } from '../steps/doing'
import { placedSteps } from '../tree'
import { definePreflight, noted } from './finding'

/** A rule that waits and then does nothing. */
export const onlyWaits = definePreflight({
  kind: 'onlyWaits',
  look(rule) {
    const steps = placedSteps(rule.document)
    const [first] = steps
    const idle = !steps.some(({ step }) => doesSomething(step.kind))
    const waits = steps.some(({ step }) => STEPS[step.kind].mayWait(step.params))
    if (!first || !idle || !waits) return []
    return [
      noted('onlyWaits', rule, {
        severity: 'warning',
        part: 'step',
        id: first.step.id,
        param: '',
        text: 'The rule only waits',
        why: 'Nothing comes after the wait. Add what should happen then.',
      }),
    ]
  },
})
