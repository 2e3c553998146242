import { setWord } from '../edit'
import { STEPS } from '../steps'
import { placedSteps } from '../tree'
import { definePreflight, noted } from './finding'

/** After a wait something goes to somebody, and nobody asks whether it is still true. */
export const blindWait = definePreflight({
  kind: 'blindWait',
  look(rule, { catalogue }) {
    const { document } = rule
    if (document.conditions.items.length === 0) return []
    const steps = placedSteps(document)
    const tells = (params: object): boolean => {
      const { email } = params as { readonly email?: boolean }
      return email === true
    }
    return steps.flatMap(({ step }, i) => {
      if (!('recheck' in STEPS[step.kind].form)) return []
      const asks = STEPS[step.kind].recheck(step.params) ?? document.recheck !== false
      const told = steps.slice(i + 1).find((one) => tells(one.step.params))
      if (asks || !told) return []
      const own = STEPS[step.kind].recheck(step.params) === false
      return [
        noted('blindWait', rule, {
          severity: 'warning',
          part: 'step',
          id: step.id,
          param: 'recheck',
          text: 'Not checked after the wait',
          why: `Step ${told.label} notifies someone even if the record has changed during the wait.`,
          fix: {
            say: 'Check the conditions again',
            rule: own
              ? setWord(document, { part: 'step', id: step.id }, 'recheck', true, catalogue)
              : setWord(document, { part: 'goingOn', id: 'rule' }, 'recheck', true, catalogue),
          },
        }),
      ]
    })
  },
})
