import { figure, nounOf, plural } from '../../language/counts'
import { placedConditions } from '../../conditions/document'
import { OPERATORS } from '../../conditions/operators'
import { sayRecurrence } from '../triggers/recurring'
import { placedSteps } from '../tree'
import { makesTask } from '../steps/create-task/task'
import { definePreflight, noted } from './finding'

/** Operators that hold on several days in a row for one record. */
const STRETCH: ReadonlySet<string> = new Set(['inNext', 'inLast', 'longAgo', 'farAhead', 'standing', 'is'])

/**
 * What comes again and again, asks for something that goes on holding, and makes something each time: once was meant.
 */
export const everyDay = definePreflight({
  kind: 'everyDay',
  look(rule, { data }) {
    const { document } = rule
    const recurring = document.triggers.find((trigger) => trigger.kind === 'recurring')
    const task = placedSteps(document).find(({ step }) => makesTask(step) || step.kind === 'notify')
    if (!recurring || !task || document.repeats) return []
    const dated = placedConditions(document.conditions, document.object).filter(
      ({ condition }) => STRETCH.has(condition.op) && OPERATORS[condition.op].types.includes('date'),
    )
    if (dated.length === 0) return []
    const { count, first } = data.count(document.object, document.conditions)
    const every = (recurring.params as { readonly rule: { readonly rule: string } }).rule.rule
    return [
      noted('everyDay', rule, {
        severity: 'warning',
        part: 'trigger',
        id: recurring.id,
        param: 'rule',
        text: `Repeats ${sayRecurrence(every)} for the same records`,
        why: `${figure(count)} ${nounOf(count, document.object)} ${plural(count, 'matches', 'match')} now${first ? `, for example ${first.name}` : ''}, and will run again each time. A trigger “before, on or after a date” runs once.`,
        fix: { say: 'Run only once per record', rule: { ...document, repeats: { how: 'once' } } },
      }),
    ]
  },
})
