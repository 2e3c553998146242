import { defineSignal } from './signal'

/** Somebody wanted the rule run for the record. */
export const hand = defineSignal({
  kind: 'hand',
  keys: () => [],
  about: () => ({ kind: 'started' }),
  ruleOf: ({ cause }) => (cause.by === 'person' ? (cause.starts?.ruleId ?? null) : null),
})

export const BY_HAND = { signal: 'hand', key: '' } as const
