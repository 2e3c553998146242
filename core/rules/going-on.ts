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
  recheck: { widget: 'toggle', on: 'is asked again after each wait', off: 'is asked once only' },
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

/** Whether time plays a part in it: only then there is something to say. */
export const goesByTime = (rule: Pick<RuleDocument, 'triggers' | 'steps'>): boolean =>
  rule.triggers.some((trigger) => TRIGGERS[trigger.kind].byClock) ||
  placedSteps({ object: 'deal', ...rule }).some(({ step }) => STEPS[step.kind].mayWait(step.params))

/** "Only if is asked again after each wait; what falls due while nothing runs is made up for within 24 hours". */
export const goingOnSentence = (rule: Pick<RuleDocument, 'recheck' | 'graceHours'>): readonly SentencePart[] => {
  const { recheck, graceHours } = goingOnOf(rule)
  return [
    say('Only if '),
    word('recheck', recheck ? 'is asked again after each wait' : 'is asked once only', ''),
    say('; what falls due while nothing runs is made up for within '),
    word('graceHours', `${graceHours} ${graceHours === 1 ? 'hour' : 'hours'}`, ''),
  ]
}
