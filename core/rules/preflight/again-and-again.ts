import { OBJECT_WORDS, oneOf } from '../../records/kinds'
import { setWord } from '../edit'
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
      if (step.kind === 'createTask' && (step.params as { readonly again: boolean }).again) {
        found.push(
          noted('againAndAgain', rule, {
            severity: 'likely',
            part: 'step',
            id: step.id,
            param: 'again',
            text: 'the same task at every change',
            why: `Every change of a ${oneOf(object)} makes another one, even while the last is open.`,
            fix: {
              say: 'not while the same is open',
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
          severity: 'note',
          part: 'trigger',
          id: often.id,
          param: 'kind',
          text: `${changed.toLocaleString('en')} starts in 30 days`,
          why: `Only ${created.toLocaleString('en')} ${created === 1 ? oneOf(object) : OBJECT_WORDS[object].many} were created in that time; every change of any field counts here, those by rules and imports among them.`,
        }),
      )
    }
    return found
  },
})
