import { figure } from '../../language/counts'
import { placedConditions } from '../../conditions/document'
import { OPERATORS } from '../../conditions/operators'
import { addTrigger, removePart } from '../edit'
import { definePreflight, noted } from './finding'
import { OBJECT_WORDS } from '../../records/kinds'
import { fieldWord } from '../../fields/say-value'

/** "Is created" with conditions that are hardly ever known then: records get those values later, and start nothing. */
export const createdTooEarly = definePreflight({
  kind: 'createdTooEarly',
  look(rule, { catalogue, data }) {
    const { document } = rule
    const { object } = document
    const trigger = document.triggers.find((one) => one.kind === 'created')
    if (!trigger || document.triggers.length > 1) return []
    const asked = placedConditions(document.conditions, object)
      .filter(
        (placed) => placed.object === object && !placed.condition.not && !OPERATORS[placed.condition.op].asksEmpty,
      )
      .map(({ condition }) => condition)
    for (const condition of asked) {
      const field = catalogue.field(object, condition.field)
      const { count, first, total } = data.filledLater(object, condition.field, document.conditions)
      if (!field || !first || total < 5 || count * 2 < total) continue
      const changed = addTrigger(
        removePart(document, { part: 'trigger', id: trigger.id }),
        'createdOrChanged',
        catalogue,
      )
      return [
        noted('createdTooEarly', rule, {
          severity: 'warning',
          part: 'trigger',
          id: trigger.id,
          param: 'kind',
          about: field.key,
          text: `${field.label} is usually filled in later`,
          why: `For ${figure(count)} of ${figure(total)} matching ${OBJECT_WORDS[object].many} (for example “${first.name}”), ${fieldWord(field)} was filled in after creation, so the trigger “is created” would have missed them.`,
          fix: { say: 'Use “is created or changed”', rule: changed.rule },
        }),
      ]
    }
    return []
  },
})
