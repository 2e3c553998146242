import { z } from 'zod'
import { sayQueue, type TaskDraft } from '../records/task'
import { sayDay } from '../time/say'
import { defineEffect } from './effect'

/** Somebody, or the queue of a team, gets something to do. */
export const task = defineEffect({
  kind: 'task',
  category: 'people',
  left: z.object({
    taskId: z.number(),
    title: z.string(),
    assigneeId: z.string().nullable(),
    queue: z.string().optional(),
    due: z.string(),
  }),
  needs: () => [],
  apply({ world, runId, ruleId, stepId, because }, { task: draft }: { readonly task: TaskDraft }) {
    const { ref, title, notes, taskKind, priority, due, assigneeId, queue, remindAt, followers, asks } = draft
    // Key by key: spreading one object into another costs more than writing the row.
    const taskId = world.createTask({
      ref,
      title,
      notes,
      taskKind,
      priority,
      due,
      assigneeId,
      queue,
      remindAt,
      ruleId,
      runId,
      stepId,
      because,
      ...(followers ? { followers } : {}),
      ...(asks ? { asks } : {}),
    })
    return { taskId, title, assigneeId, ...(queue === null ? {} : { queue }), due }
  },
  describe({ assigneeId, queue, due, title }, { catalogue }, today) {
    const who = assigneeId === null ? sayQueue(queue ?? null) : (catalogue.person(assigneeId)?.name ?? assigneeId)
    return `created task for ${who}, due ${sayDay(due, today)}: “${title}”`
  },
  undo({ taskId, title }, { facts, tasks, left }) {
    const found = facts.task(taskId)
    if (found?.open && !found.touched) tasks.push({ id: taskId, title })
    else left.push(`task “${title}” ${found?.open ? 'has been worked on' : 'is no longer open'}`)
  },
  summarise: ({ taskId, assigneeId, queue }) => ({ task: { id: taskId, assigneeId, queue: queue ?? null } }),
})
