import { z } from 'zod'
import { say } from '../../../language/sentence'
import { outcomeIn } from '../../../signals/task'
import { defineAwait, ownTasks } from '../awaiting'
import { checkTask, TASK_FORM, TASK_SHAPE, TASK_START, taskOf, taskWords, type TaskParams } from '../create-task/task'

/** Gives somebody something to do, and lets time pass until it is done. */
export const taskAndWait = defineAwait<'taskAndWait', TaskParams>({
  kind: 'taskAndWait',
  does: 'create a task and wait until it is done',
  category: 'people',
  alsoCalled: ['assign', 'follow up', 'escalate', 'overdue', 'not done'],
  params: z.strictObject(TASK_SHAPE),
  form: TASK_FORM,
  start: TASK_START,
  opening: (params, names) => taskWords(params, names),
  ends: ['if it is done', 'if it is not done in time'],
  sentence: () => [say('it is done')],
  check: (params, names) => checkTask(params, names),
  first: (params, context) => taskOf(params, context),
  signals: (_params, _names, wrote) => ownTasks(wrote),
  // It listens to its own task and no other.
  comes: () => true,
  content: {
    gives: () => [{ key: 'outcome', label: 'task outcome', type: 'text' }],
    of({ changes }) {
      const outcome = outcomeIn(changes)
      return { gives: { outcome: outcome || null }, say: outcome ? `done: “${outcome}”` : 'done' }
    },
  },
  examples: [
    {
      say: 'gives the owner a task and waits three working days',
      params: {
        ...TASK_START,
        title: 'Ring about {{deal.name}}',
        most: { count: 3, unit: 'workdays' },
        recheck: true,
      },
      record: { name: 'Two rooms', owner: 'rosa' },
      expect: {
        go: 'wait',
        dueMs: Date.UTC(2026, 10, 27, 9, 12),
        effects: [
          {
            effect: 'task',
            task: {
              ref: { object: 'deal', id: 1 },
              title: 'Ring about Two rooms',
              notes: '',
              taskKind: 'call',
              priority: 'normal',
              due: '2026-11-26',
              assigneeId: 'rosa',
              queue: null,
              remindAt: null,
            },
          },
        ],
      },
    },
    {
      say: 'has no one to go to',
      params: { ...TASK_START, title: 'Ring', most: { count: 3, unit: 'workdays' }, recheck: true },
      record: { owner: null },
      expect: { go: 'skip', reason: { code: 'nobody', field: 'Owner' } },
    },
  ],
})
