import { isEmpty, type Values } from '../language/value'
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

const ANSWER = 'answer:'

/** What was answered when it was done, a change each. */
export const answerChanges = (values: Values): readonly FieldChange[] =>
  Object.entries(values).flatMap(([key, value]) =>
    isEmpty(value) ? [] : [{ field: `${ANSWER}${key}`, old: null, new: value }],
  )

/** What was answered, by key; what was left blank is not there. */
export const answersIn = (changes: readonly FieldChange[]): Values =>
  Object.fromEntries(
    changes.flatMap(({ field, new: value }) => (field.startsWith(ANSWER) ? [[field.slice(ANSWER.length), value]] : [])),
  )

/** What came of the task that an event is about. */
export const outcomeIn = (changes: readonly FieldChange[]): string => {
  const value = changes.find(({ field }) => field.startsWith(PREFIX))?.new
  return typeof value === 'string' ? value : ''
}

export const onTask = (taskId: number) => ({ signal: 'task', key: String(taskId) }) as const
