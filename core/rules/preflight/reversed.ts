import { figure, plural } from '../../language/counts'
import { placedConditions, type Condition, type Group } from '../../conditions/document'
import { addDays, dateAt } from '../../time/dates'
import { instantAt, shiftDays, type DayUnit } from '../../time/moments'
import { OBJECT_WORDS } from '../../records/kinds'
import { calendarOf } from '../clock'
import { setWord } from '../edit'
import { sayItem } from '../../conditions/compile'
import { definePreflight, noted, type Noted, type PreflightContext, type Reviewed } from './finding'
import { fieldWord } from '../../fields/say-value'

/** Looking ahead and looking back, of the operators on dates. */
const OTHER_WAY: { readonly [op: string]: Condition['op'] | undefined } = {
  inNext: 'inLast',
  inLast: 'inNext',
  longAgo: 'farAhead',
  farAhead: 'longAgo',
}

const turned = (group: Group, id: string, op: Condition['op']): Group => ({
  ...group,
  items: group.items.map((item) =>
    item.kind === 'group' ? turned(item, id, op) : item.id === id ? { ...item, op } : item,
  ),
})
const withOne = (group: Group, condition: Condition): Group => ({
  kind: 'group',
  id: 'p0',
  mode: 'all',
  items: [group, condition],
})

/** Nothing fits as it is written, and some would with before and after, or ahead and back, changed over. */
export const reversed = definePreflight({
  kind: 'reversed',
  look(rule, context) {
    const { document } = rule
    const { data, catalogue } = context
    const { object, conditions } = document
    const found: Noted[] = ofTriggers(rule, context)
    if (conditions.items.length === 0 || data.count(object, conditions).count > 0) return found
    for (const { condition, object: of } of placedConditions(conditions, object)) {
      const other = OTHER_WAY[condition.op]
      if (!other || of !== object || looksThatWay(condition, rule, context)) continue
      const group = turned(conditions, condition.id, other)
      const { count, first } = data.count(object, group)
      if (count === 0) continue
      found.push(
        noted('reversed', rule, {
          severity: 'warning',
          part: 'condition',
          id: condition.id,
          param: 'op',
          text: `Possibly reversed: “${sayItem({ ...condition, op: other }, object, catalogue)}”`,
          why: `No ${OBJECT_WORDS[object].one} matches now. Reversed, ${figure(count)} would match${first ? `, for example ${first.name}` : ''}.`,
          fix: { say: 'Reverse it', rule: { ...document, conditions: group } },
        }),
      )
    }
    return found
  },
})

/**
 * Whether any record lies where the condition looks, only not within its span: then nothing matches today, and it is
 * right all the same.
 */
function looksThatWay(condition: Condition, { document }: Reviewed, { data, moment }: PreflightContext): boolean {
  const ahead = condition.op === 'inNext' || condition.op === 'farAhead'
  const { conditions, object } = document
  const group: Group = {
    ...conditions,
    items: conditions.items.map((item) =>
      item.kind === 'condition' && item.id === condition.id
        ? {
            ...item,
            op: ahead ? ('after' as const) : ('before' as const),
            params: { date: addDays(moment.today, ahead ? -1 : 1) },
          }
        : item,
    ),
  }
  return data.count(object, group).count > 0
}

/** A start before a date, of records whose dates all lie behind. */
function ofTriggers(rule: Reviewed, { catalogue, data, moment }: PreflightContext): Noted[] {
  const { document } = rule
  const { object, conditions } = document
  return document.triggers
    .filter((trigger) => trigger.kind === 'atDate')
    .flatMap(({ id, params }): Noted[] => {
      const {
        field: key,
        side,
        amount,
        every,
      } = params as {
        readonly field: string | null
        readonly side: string
        readonly amount: { readonly count: number; readonly unit: string }
        readonly every: string
      }
      const field = key === null ? null : catalogue.field(object, key)
      if (!field || side !== 'before' || every !== 'once') return []
      const { zone } = catalogue.workspace
      const unit: DayUnit = amount.unit === 'minutes' || amount.unit === 'hours' ? 'days' : (amount.unit as DayUnit)
      /** Records whose date lies behind a day that is so far from today. */
      const behind = (count: number) => {
        const day = addDays(shiftDays(moment.today, count, unit, calendarOf(catalogue)), -1)
        return data.count(
          object,
          withOne(conditions, {
            kind: 'condition',
            id: 'p1',
            field: field.key,
            op: 'after',
            not: false,
            params: { date: field.type === 'dateTime' ? dateAt(instantAt(day, 0, zone), zone) : day },
          }),
        )
      }
      const [ahead, back] = [behind(amount.count), behind(-amount.count)]
      // Where dates lie ahead at all it is only that their moments are past: that comes with the days.
      if (ahead.count > 0 || back.count === 0 || behind(0).count > 0) return []
      return [
        noted('reversed', rule, {
          severity: 'warning',
          part: 'trigger',
          id,
          param: 'side',
          text: `Possibly after the ${fieldWord(field) ?? ''}, not before`,
          why: `For matching ${OBJECT_WORDS[object].many} this time is always past. Counted after the date, ${figure(back.count)} ${plural(back.count, 'is', 'are')} still to come${back.first ? `, for example ${back.first.name}` : ''}.`,
          fix: {
            say: 'Count after the date',
            rule: setWord(document, { part: 'trigger', id }, 'side', 'after', catalogue),
          },
        }),
      ]
    })
}
