import { figure, plural } from '../../language/counts'
import { placedConditions, type Condition, type Group, type Item } from '../../conditions/document'
import { sayItem } from '../../conditions/compile'
import { fieldWord } from '../../fields/say-value'
import { OBJECT_WORDS } from '../../records/kinds'
import { definePreflight, noted } from './finding'
import { allOf } from './possible'

/** A condition on a date that is meant for what comes, and lets past dates and empty ones through as well. */

/** Operators that are open to the past, as they stand or turned round. */
const OPEN: { readonly [op: string]: 'plain' | 'turned' | undefined } = {
  before: 'plain',
  inNext: 'turned',
  farAhead: 'turned',
  after: 'turned',
  within: 'turned',
}

const beside = (group: Group, id: string, added: Condition): Group => ({
  ...group,
  items: group.items.flatMap((item): Item[] =>
    item.kind === 'group'
      ? [beside(item, id, added)]
      : item.id !== id
        ? [item]
        : group.mode === 'all'
          ? [item, added]
          : [{ kind: 'group' as const, id: `${id}-g`, mode: 'all' as const, items: [item, added] }],
  ),
})

export const pastDates = definePreflight({
  kind: 'pastDates',
  look(rule, { catalogue, moment, data }) {
    const { document } = rule
    const { object, conditions } = document
    return placedConditions(conditions, object).flatMap(({ condition, object: of }) => {
      const open = OPEN[condition.op]
      const field = catalogue.field(object, condition.field)
      if (of !== object || !field || open === undefined || condition.not !== (open === 'turned')) return []
      if (field.type !== 'date' && field.type !== 'dateTime') return []
      // Whoever asks for what lies before a day that is past means the past.
      const { date } = condition.params as { readonly date?: string | null }
      if (condition.op === 'before' && (date ?? '') <= moment.today) return []
      const also = (op: Condition['op'], params: object, not: boolean): number =>
        data.count(
          object,
          allOf(conditions, { kind: 'condition', id: 'preflight-date', field: field.key, op, not, params }),
        ).count
      const matched = data.count(object, conditions).count
      const past = also('before', { date: moment.today }, false)
      const empty = also('isEmpty', {}, false)
      if (matched === 0 || past + empty === 0) return []
      const word = fieldWord(field) ?? ''
      const parts = [
        ...(past > 0 ? [`${figure(past)} ${plural(past, 'is', 'are')} past`] : []),
        ...(empty > 0 ? [`${figure(empty)} ${plural(empty, 'has', 'have')} no ${word}`] : []),
      ]
      const added: Condition = {
        ...condition,
        id: `${condition.id}-t`,
        op: 'within',
        not: false,
        params: { span: 'fromToday' },
      }
      return [
        noted('pastDates', rule, {
          severity: (past + empty) * 2 >= matched ? 'warning' : 'info',
          part: 'condition',
          id: condition.id,
          param: 'op',
          text: `Of ${figure(matched)}: ${parts.join(', ')}`,
          why: `“${sayItem(condition, object, catalogue)}” is also true for ${OBJECT_WORDS[object].many} whose ${word} is past or empty.`,
          fix: {
            say: 'Add “is today or later”',
            rule: { ...document, conditions: beside(conditions, condition.id, added) },
          },
        }),
      ]
    })
  },
})
