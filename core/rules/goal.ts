import { z } from 'zod'
import { zGroup, type Group } from '../conditions/document'
import { count } from '../language/counts'
import { say, word, type SentencePart } from '../language/sentence'
import { stableName } from '../results/stable'
import type { Form } from '../language/widgets'

/**
 * What a rule is for, where somebody says so: it is measured whether records come to it, and whether without it too.
 */

export const GOAL_DAYS_MOST = 365
export const ALONE_MOST = 50

export const zGoal = z.strictObject({
  /** What a record meets that reached it. */
  conditions: zGroup,
  /** It has so many whole days for it behind the day of the run. */
  days: z.int().min(1).max(GOAL_DAYS_MOST),
  /** Of a hundred records so many are left alone, to see what happens without the rule. */
  alone: z.int().min(0).max(ALONE_MOST),
})
export interface Goal {
  readonly conditions: Group
  readonly days: number
  readonly alone: number
}

export type GoalParams = Pick<Goal, 'days' | 'alone'>

export const GOAL_FORM: Form<GoalParams> = {
  days: { widget: 'count', min: 1, max: GOAL_DAYS_MOST, label: 'Days' },
  alone: { widget: 'count', min: 0, max: ALONE_MOST, label: 'Left alone, in percent' },
}

export const goalParams = (goal: Goal | undefined): GoalParams => ({ days: goal?.days ?? 30, alone: goal?.alone ?? 0 })

/** A target in which nothing is asked yet; `id` names its conditions. */
export const blankGoal = (id: string): Goal => ({
  conditions: { kind: 'group', id, mode: 'all', items: [] },
  ...goalParams(undefined),
})

/** "measured for 30 days; 20 % of the records are left alone to compare". */
export const goalSentence = (goal: Goal): readonly SentencePart[] => [
  say('measured for '),
  word('days', count(goal.days, 'day'), ''),
  say(' after each run; '),
  word('alone', goal.alone === 0 ? 'no records' : `${goal.alone}% of the records`, ''),
  say(' are left alone to compare'),
]

/** Names one way of measuring: with another target, another time or another share the counting begins anew. */
export const goalKey = ({ conditions, days, alone }: Goal): string =>
  stableName(JSON.stringify([conditions, days, alone]))
