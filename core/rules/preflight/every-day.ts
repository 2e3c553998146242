import { placedConditions } from '../../conditions/document'
import { OPERATORS } from '../../conditions/operators'
import { OBJECT_WORDS } from '../../records/kinds'
import { sayRecurrence } from '../triggers/recurring'
import { placedSteps } from '../tree'
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
    const task = placedSteps(document).find(({ step }) => step.kind === 'createTask' || step.kind === 'notify')
    if (!recurring || !task || document.repeats) return []
    const dated = placedConditions(document.conditions, document.object).filter(
      ({ condition }) => STRETCH.has(condition.op) && OPERATORS[condition.op].types.includes('date'),
    )
    if (dated.length === 0) return []
    const { count, first } = data.count(document.object, document.conditions)
    const every = (recurring.params as { readonly rule: { readonly rule: string } }).rule.rule
    return [
      noted('everyDay', rule, {
        severity: 'likely',
        part: 'trigger',
        id: recurring.id,
        param: 'rule',
        text: `the same again ${sayRecurrence(every)}, as long as it matches`,
        why: `${count.toLocaleString('en')} ${count === 1 ? OBJECT_WORDS[document.object].one : OBJECT_WORDS[document.object].many} match now${first ? `, ${first.name} among them` : ''}: each comes again the next time. A start “when a date comes near” comes once.`,
        fix: { say: 'once ever for each record', rule: { ...document, repeats: { how: 'once' } } },
      }),
    ]
  },
})
