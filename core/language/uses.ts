import { count, listOf, listSome, plural } from './counts'

/** What keeps something from being changed: the rules, the segment, the territory or the scorecard that use it. */
export type UsedBy =
  | { readonly rules: readonly string[] }
  /** Versions that no longer run, by which runs still wait. */
  | { readonly waiting: readonly { readonly rule: string; readonly version: number; readonly runs: number }[] }
  /** With the rules that it triggers, where that is why. */
  | { readonly segment: string; readonly rules?: readonly string[] }
  | { readonly territory: string }
  | { readonly scorecard: string }
  | { readonly field: string }

function sayRules(rules: readonly string[]): string {
  const named = rules.map((name) => `“${name}”`)
  return `${plural(named.length, 'rule', 'rules')} ${named.length > 5 ? listSome(named, 5) : listOf(named)}`
}

const sayUser = (by: Exclude<UsedBy, { readonly waiting: unknown }>): string => {
  if ('segment' in by)
    return `used by segment “${by.segment}”${by.rules?.length ? `, which triggers ${sayRules(by.rules)}` : ''}`
  if ('rules' in by) return `used by ${sayRules(by.rules)}`
  if ('territory' in by) return `used by territory “${by.territory}”`
  if ('scorecard' in by) return `used by scorecard “${by.scorecard}”`
  return `used to calculate “${by.field}”`
}

/** "“Fit tier” can’t be archived: it is used by rule “X”. Remove it there first." */
export const sayInUse = (what: string, cannot: 'archived' | 'removed' | 'deleted' | 'changed', by: UsedBy): string =>
  `“${what}” can’t be ${cannot}: ${
    'waiting' in by
      ? `${listSome(by.waiting.map(({ rule, version, runs }) => `${count(runs, 'waitingRun')} of version ${version} of rule “${rule}”`))} still ${
          by.waiting.length === 1 && by.waiting[0]?.runs === 1 ? 'needs' : 'need'
        } it. Let them finish, or end them in Ahead.`
      : `it is ${sayUser(by)}. Remove it there first.`
  }`
