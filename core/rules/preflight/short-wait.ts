import type { MomentUnit } from '../../time/moments'
import { sayCount } from '../../time/moments'
import type { Step } from '../document'
import { STEPS } from '../steps'
import { placedSteps } from '../tree'
import type { When } from '../when'
import { definePreflight, noted } from './finding'

/** Waits that are hardly meant as they stand: of minutes before somebody gets something, or far shorter than before. */

type Amount = { readonly count: number; readonly unit: MomentUnit }

/** Minutes, about: for telling what is far shorter. */
const MINUTES: { readonly [U in MomentUnit]: number } = {
  minutes: 1,
  hours: 60,
  days: 1440,
  workdays: 2016,
  weeks: 10_080,
  months: 43_800,
}
const SHORTER = 10

/** How long a step waits, or puts off what it does; `null` where it is not counted from now. */
function waitOf({ params }: Pick<Step, 'params'>): { readonly param: string; readonly amount: Amount } | null {
  const { until, later, most } = params as {
    readonly until?: When
    readonly later?: When | null
    readonly most?: Amount
  }
  if (until?.at === 'after') return { param: 'until', amount: until.amount }
  if (later?.at === 'after') return { param: 'later', amount: later.amount }
  return most && most.count > 0 ? { param: 'most', amount: most } : null
}
const minutes = ({ count, unit }: Amount): number => count * MINUTES[unit]

export const shortWait = definePreflight({
  kind: 'shortWait',
  look(rule) {
    const { document, published } = rule
    const before = new Map(published ? placedSteps(published).map(({ step }) => [step.id, waitOf(step)]) : [])
    const steps = placedSteps(document)
    return steps.flatMap(({ step, label }, i) => {
      const own = waitOf(step)
      if (!own) return []
      const { amount, param } = own
      const place = { severity: 'warning', part: 'step', id: step.id, param } as const
      const said = sayCount(amount.count, amount.unit)
      const old = before.get(step.id)
      if (old && minutes(amount) * SHORTER < minutes(old.amount))
        return [
          noted('shortWait', rule, {
            ...place,
            about: 'shorter',
            text: `Only ${said}: it was ${sayCount(old.amount.count, old.amount.unit)}`,
            why: `Step ${label} waited ${sayCount(old.amount.count, old.amount.unit)} in the published version.`,
          }),
        ]
      const next =
        param === 'later' ? step : steps.slice(i + 1).find((one) => STEPS[one.step.kind].category === 'people')?.step
      if (amount.unit !== 'minutes' || !next || STEPS[next.kind].category !== 'people') return []
      return [
        noted('shortWait', rule, {
          ...place,
          about: 'minutes',
          text: `Only ${said}`,
          why: `Step ${label} waits ${said} before someone gets something. Days or hours are usual.`,
        }),
      ]
    })
  },
})
