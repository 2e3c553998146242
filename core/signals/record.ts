import type { EventKind } from '../records/record'
import { defineSignal } from './signal'

/** A record was created, changed in any way, or deleted. */
export const record = defineSignal({
  kind: 'record',
  keys: ({ kind }) => [kind],
  about: (key) => ({ kind: key as EventKind }),
})

export const onRecord = (kind: 'created' | 'changed' | 'deleted') => ({ signal: 'record', key: kind }) as const
