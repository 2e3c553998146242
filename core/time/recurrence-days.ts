import { RRuleTemporal } from 'rrule-temporal'
import { Temporal } from 'temporal-polyfill'
import { dateAt } from './dates'
import { useRecurrences } from './recurrence'

/** The days of recurrence rules, found by a package: whoever imports this file hands them in. */

const kept = new Map<string, RRuleTemporal>()
const KEPT_MOST = 500

function compiled(rule: string, from: string): RRuleTemporal {
  const key = `${from} ${rule}`
  let found = kept.get(key)
  if (!found) {
    if (kept.size >= KEPT_MOST) kept.clear()
    kept.set(
      key,
      (found = new RRuleTemporal({ rruleString: `DTSTART:${from.replaceAll('-', '')}T000000Z\nRRULE:${rule}` })),
    )
  }
  return found
}

useRecurrences((rule, from, after) => {
  const next = compiled(rule, from).next(Temporal.PlainDate.from(after).toZonedDateTime('UTC'), false)
  return next ? dateAt(next.epochMilliseconds, 'UTC') : null
})
