import { enters } from '../../testing/rules'
import type { RuleDocument } from '../document'
import { preflight } from '.'
import type { PreflightData, Reviewed } from './finding'
import { catalogue, moment } from '../../testing/setting'

export const NO_DATA: PreflightData = {
  count: () => ({ count: 0, first: null }),
  sample: () => [],
  started: () => 0,
  filledLater: () => ({ total: 0, count: 0, first: null }),
}

export const reviewed = (rule: RuleDocument, ruleId = 1, on = true): Reviewed => ({
  ruleId,
  order: ruleId * 10,
  on,
  document: rule,
})

export const look = (rule: RuleDocument, data: Partial<PreflightData> = {}, others: readonly RuleDocument[] = []) => {
  const rules = [reviewed(rule), ...others.map((one, i) => reviewed(one, i + 2))]
  return preflight(rules[0]!, { catalogue, moment, data: { ...NO_DATA, ...data }, rules })
}

export const found = (...given: Parameters<typeof look>) =>
  look(...given).map(({ kind, severity, id, text }) => `${severity} ${kind} ${id}: ${text}`)

export const when = [enters('hp-quoted')]

/** So many records, whatever is asked; each amount has its rate. */
export const counting = (n: number): Pick<PreflightData, 'count'> => ({
  count: (_object, group) =>
    n === 0 || JSON.stringify(group).includes('preflight-rate')
      ? { count: 0, first: null }
      : { count: n, first: { id: 7, name: 'Two rooms' } },
})
