import { STEPS } from '../steps'
import { placedSteps } from '../tree'
import { definePreflight, noted } from './finding'

/** Messages that go at any hour, with the reason that was given: whoever publishes the rule is to read it. */
export const anyHour = definePreflight({
  kind: 'anyHour',
  look: (rule, { catalogue }) =>
    placedSteps(rule.document).flatMap(({ step }) => {
      const urgent = STEPS[step.kind].writes(step.params, catalogue)?.urgent ?? ''
      if (urgent === '') return []
      return [
        noted('anyHour', rule, {
          severity: 'info',
          part: 'step',
          id: step.id,
          param: 'urgent',
          about: urgent,
          text: 'This message goes at any hour',
          why: `The reason given: “${urgent}”. It may wake the customer at night.`,
        }),
      ]
    }),
})
