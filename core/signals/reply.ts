import type { Value } from '../language/value'
import type { FieldChange } from '../records/record'
import type { RequestOutcome } from '../web/request'
import { defineSignal } from './signal'

const PREFIX = 'reply:'

/** A service outside has answered a request that was made for the record, or refused it. */
export const reply = defineSignal({
  kind: 'reply',
  *keys({ kind, changes }) {
    if (kind !== 'replied') return
    for (const { field } of changes) if (field.startsWith(PREFIX)) yield field.slice(PREFIX.length)
  },
  about: () => ({ kind: 'replied' }),
})

export interface Reply {
  readonly outcome: RequestOutcome
  /** The status of HTTP; `null` where nothing was reached. */
  readonly status: number | null
  /** What was answered, or why nothing was. */
  readonly text: string
}

export const onReply = (key: string) => ({ signal: 'reply', key }) as const

/** What such an event says: no field of the record. */
export const replyChanges = (key: string, { outcome, status, text }: Reply): readonly FieldChange[] => [
  { field: `${PREFIX}${key}`, old: null, new: outcome },
  { field: 'replyStatus', old: null, new: status },
  { field: 'replyText', old: null, new: text },
]

export function replyIn(changes: readonly FieldChange[]): Reply {
  const value = (test: (field: string) => boolean): Value => changes.find(({ field }) => test(field))?.new ?? null
  const status = value((field) => field === 'replyStatus')
  return {
    outcome: value((field) => field.startsWith(PREFIX)) === 'taken' ? 'taken' : 'refused',
    status: typeof status === 'number' ? status : null,
    text: String(value((field) => field === 'replyText') ?? ''),
  }
}
