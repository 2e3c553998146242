import type { FieldChange } from '../records/record'
import { defineSignal } from './signal'

/** A task of the record is done. */
export const task = defineSignal({
  kind: 'task',
  *keys({ kind, changes }) {
    if (kind !== 'taskDone') return
    for (const { field } of changes) if (field.startsWith(PREFIX)) yield field.slice(PREFIX.length)
  },
  about: () => ({ kind: 'taskDone' }),
})

const PREFIX = 'task:'

/** What such an event says: no field of the record. The new value is what came of it, in the words of who did it. */
export const taskChange = (taskId: number, outcome: string): FieldChange => ({
  field: `${PREFIX}${taskId}`,
  old: null,
  new: outcome,
})

/** What came of the task that an event is about. */
export const outcomeIn = (changes: readonly FieldChange[]): string => {
  const value = changes.find(({ field }) => field.startsWith(PREFIX))?.new
  return typeof value === 'string' ? value : ''
}

export const onTask = (taskId: number) => ({ signal: 'task', key: String(taskId) }) as const
