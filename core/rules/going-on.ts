import { count } from '../language/counts'
import { GRACE_HOURS, type RuleDocument } from './document'
import { STEPS } from './steps'
import { placedSteps } from './tree'
import { TRIGGERS } from './triggers'
import type { Form } from '../language/widgets'
import { say, word, type SentencePart } from '../language/sentence'

/** How a rule goes on after it waited, and what it makes up for when nothing ran for a while. */
export interface GoingOnParams {
  readonly recheck: boolean
  readonly graceHours: number
}

export const GOING_ON_FORM: Form<GoingOnParams> = {
  recheck: { widget: 'toggle', on: 'again after each wait', off: 'only at the start' },
  graceHours: { widget: 'count', min: 0, max: 8760 },
}

export const goingOnOf = ({
  recheck = true,
  graceHours = GRACE_HOURS,
}: Pick<RuleDocument, 'recheck' | 'graceHours'>): GoingOnParams => ({ recheck, graceHours })

/** The rule with it; what is as usual is left out. */
export function withGoingOn(
  { recheck: _r, graceHours: _g, ...rule }: RuleDocument,
  { recheck, graceHours }: GoingOnParams,
): RuleDocument {
  return { ...rule, ...(recheck ? {} : { recheck }), ...(graceHours === GRACE_HOURS ? {} : { graceHours }) }
}

/** Whether it goes on as nearly every rule does: then it need not be said. */
export const goesOnAsUsual = (rule: Pick<RuleDocument, 'recheck' | 'graceHours'>): boolean => {
  const { recheck, graceHours } = goingOnOf(rule)
  return recheck && graceHours === GRACE_HOURS
}

/** Whether time plays a part in it: only then there is something to say. */
export const goesByTime = (rule: Pick<RuleDocument, 'triggers' | 'steps'>): boolean =>
  rule.triggers.some((trigger) => TRIGGERS[trigger.kind].byClock) ||
  placedSteps({ object: 'deal', ...rule }).some(({ step }) => STEPS[step.kind].mayWait(step.params))

/** "conditions are checked again after each wait; times missed during downtime are caught up within 24 hours". */
export const goingOnSentence = (rule: Pick<RuleDocument, 'recheck' | 'graceHours'>): readonly SentencePart[] => {
  const { recheck, graceHours } = goingOnOf(rule)
  return [
    say('conditions are checked '),
    word('recheck', recheck ? 'again after each wait' : 'only at the start', ''),
    say('; times missed during downtime are caught up within '),
    word('graceHours', count(graceHours, 'hour'), ''),
  ]
}
