import { defineSignal } from './signal'

/** The moment of a trigger that goes by the clock has come for the record. */
export const clock = defineSignal({
  kind: 'clock',
  keys: () => [],
  about: () => ({ kind: 'started' }),
  ruleOf: ({ cause }) => (cause.by === 'clock' ? cause.starts.ruleId : null),
})

export const BY_CLOCK = { signal: 'clock', key: '' } as const
