import { count } from '#core/language/counts'
import { TRIGGERS, type TriggerName } from '#core/rules/triggers'

/** Whoever chose one of the kinds that are taken for one another sees what the others would have come to. */
export function neighbours(kinds: Readonly<Partial<Record<string, number>>> | undefined, kind: TriggerName): string {
  return kinds?.[kind] === undefined
    ? ''
    : Object.entries(kinds)
        .filter(([name]) => name !== kind)
        .map(([name, n]) => `${TRIGGERS[name as TriggerName].does}: ${count(n ?? 0, 'time')}`)
        .join(' · ')
}
