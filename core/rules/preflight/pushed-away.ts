import { sayMinute } from '../../time/moments'
import type { Step } from '../document'
import { STEPS } from '../steps'
import { setWord } from '../edit'
import type { When } from '../when'
import { definePreflight, noted, type Noted } from './finding'

const DAY_MINUTES = 1440
type Timed = { readonly minute?: number | null; readonly zone?: string }

/**
 * A moment that is known to the minute and lies outside the hours that the next wait allows: it never goes on the same
 * day.
 */
export const pushedAway = definePreflight({
  kind: 'pushedAway',
  look(rule, { catalogue }) {
    const { document } = rule
    const times = document.triggers.map(({ kind, params }) =>
      kind === 'atDate' || kind === 'recurring' ? ((params as Timed).minute ?? null) : null,
    )
    const [first] = times
    // Several starts at several times of a day, or one at any time, come as they come.
    let minute = first !== undefined && times.every((one) => one === first) ? first : null
    let from: { readonly part: 'trigger' | 'step'; readonly id: string } | null =
      document.triggers.length === 1 && document.triggers[0] ? { part: 'trigger', id: document.triggers[0].id } : null
    const found: Noted[] = []
    for (const step of document.steps) {
      if (step.kind !== 'wait') {
        if (!holdsMoment(step)) [minute, from] = [null, null]
        continue
      }
      const until = (step.params as { readonly until: When }).until
      if (until.at !== 'hours') {
        const exact = until.at === 'after' && (until.amount.unit === 'hours' || until.amount.unit === 'minutes')
        if (exact)
          minute =
            minute === null
              ? null
              : (minute + until.amount.count * (until.amount.unit === 'hours' ? 60 : 1)) % DAY_MINUTES
        else if (until.minute !== null) [minute, from] = [until.minute, { part: 'step', id: step.id }]
        else if (until.at === 'field') [minute, from] = [null, null]
        if (exact) from = null
        continue
      }
      if (minute !== null && (minute < until.from || minute >= until.to)) {
        const fix =
          from?.part === 'trigger'
            ? {
                say: `Run at ${sayMinute(until.from)}`,
                rule: setWord(document, from, 'minute', until.from, catalogue),
              }
            : null
        found.push(
          noted('pushedAway', rule, {
            severity: 'info',
            part: 'step',
            id: step.id,
            param: 'until',
            text: `Always waits until ${sayMinute(until.from)}${minute >= until.to ? ' on a later day' : ''}`,
            why: `The rule gets here at ${sayMinute(minute)}, which is outside ${sayMinute(until.from)}–${sayMinute(until.to)}.`,
            fix,
          }),
        )
      }
      minute = minute === null || minute < until.from || minute >= until.to ? until.from : minute
      from = null
    }
    return found
  },
})

/** Whether it is still the same moment behind a step. */
const holdsMoment = ({ kind }: Step): boolean => STEPS[kind].ways === null || STEPS[kind].ways?.made === true
