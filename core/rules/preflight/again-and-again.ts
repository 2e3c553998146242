import { count, plural } from '../../language/counts'
import { aOne } from '../../records/kinds'
import { setWord } from '../edit'
import { makesTask } from '../steps/create-task/task'
import { placedSteps } from '../tree'
import { definePreflight, noted, type Noted } from './finding'

const EVERY: ReadonlySet<string> = new Set(['changed', 'createdOrChanged'])

/** A start at every change: the same task over and over, or far more runs than "is created" would have made. */
export const againAndAgain = definePreflight({
  kind: 'againAndAgain',
  look(rule, { catalogue, data }) {
    const { document } = rule
    const { object } = document
    const often = document.triggers.find((trigger) => EVERY.has(trigger.kind))
    if (!often || document.repeats) return []
    const found: Noted[] = []
    for (const { step } of placedSteps(document)) {
      if (makesTask(step) && (step.params as { readonly again: boolean }).again) {
        found.push(
          noted('againAndAgain', rule, {
            severity: 'warning',
            part: 'step',
            id: step.id,
            param: 'again',
            text: 'Repeats the same task at every change',
            why: `Every change of ${aOne(object)} creates another task, even if the last one is open.`,
            fix: {
              say: 'Skip while the same task is open',
              rule: setWord(document, { part: 'step', id: step.id }, 'again', false, catalogue),
            },
          }),
        )
      }
    }
    const [changed, created] = [
      data.started(object, often.kind === 'changed' ? 'changed' : 'createdOrChanged'),
      data.started(object, 'created'),
    ]
    if (changed > 5 * Math.max(1, created)) {
      found.push(
        noted('againAndAgain', rule, {
          severity: 'info',
          part: 'trigger',
          id: often.id,
          param: 'kind',
          text: `${count(changed, 'run')} in 30 days`,
          why: `Only ${count(created, object)} ${plural(created, 'was', 'were')} created in that time. This trigger also counts every change, including changes by rules and imports.`,
        }),
      )
    }
    return found
  },
})
