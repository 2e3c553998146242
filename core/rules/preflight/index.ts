import { checkRule } from '../check'
import * as rows from './all'
import { noted, SEVERITIES, type Noted, type PreflightContext, type PreflightSpec, type Reviewed } from './finding'

export const FINDINGS: { readonly [K in keyof typeof rows]: PreflightSpec<K> } = rows

/**
 * Everything that reading a rule brings to light, the gravest first: what keeps it from being switched on, and what
 * each kind of finding has to say about it beside the rules that run.
 */
export function preflight(rule: Reviewed, context: PreflightContext): readonly Noted[] {
  const unfinished = checkRule(rule.document, context.catalogue).map(({ part, id, param, text, problem }) =>
    noted('unfinished', rule, {
      severity: 'error',
      part,
      id,
      param,
      text,
      about: problem.code,
      why: 'Finish this before switching on the rule.',
    }),
  )
  const weight = (one: Noted) => SEVERITIES.indexOf(one.severity)
  return [...unfinished, ...Object.values(FINDINGS).flatMap((spec) => spec.look(rule, context))].sort(
    (a, b) => weight(a) - weight(b),
  )
}
