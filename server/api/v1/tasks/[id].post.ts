import { z } from 'zod'
import { sees } from '../../../auth/scope'
import { isDate } from '../../../../core/time/dates'

const body = z.discriminatedUnion('act', [
  z.strictObject({ act: z.literal('finish'), outcome: z.string().trim().max(1000) }),
  z.strictObject({ act: z.literal('reopen') }),
  z.strictObject({ act: z.literal('postpone'), due: z.string().refine(isDate, 'is not a date') }),
  z.strictObject({ act: z.literal('handOver'), personId: z.string().max(100) }),
])

/** What a person does with a task. Finishing a finished one changes nothing, so that a repeated key does no harm. */
export default defineRoute({ route: 'POST /tasks/:id', params: zIdParam, body }, ({ workspace, person, scope, params: { id }, body: given }) => {
  const { tasks } = workspace.store
  const nowMs = workspace.clock.nowMs()
  const task = tasks.get(id)
  if (!task || !sees(scope, task.assigneeId)) throw notFound(`task ${id}`)
  if (given.act === 'handOver' && !workspace.catalogue().person(given.personId)?.active) throw notFound(`person “${given.personId}”`)
  if (task.state === 'done' && (given.act === 'postpone' || given.act === 'handOver')) throw new ProblemError(409, 'Done already', 'The task is done; open it again first.')
  workspace.db.atomically(() => {
    if (given.act === 'finish' && task.state === 'open') tasks.finish(id, person.id, given.outcome, nowMs)
    if (given.act === 'reopen' && task.state === 'done') tasks.reopen(id, person.id, nowMs)
    if (given.act === 'postpone') tasks.postpone(id, person.id, given.due, nowMs)
    if (given.act === 'handOver') tasks.handOver(id, person.id, given.personId, nowMs)
  })
  workspace.live.tell({ about: 'tasks', people: [task.assigneeId, ...(given.act === 'handOver' ? [given.personId] : [])] })
  workspace.live.tell({ about: 'records', refs: [{ object: task.object, id: task.recordId }] })
  return { state: tasks.get(id)?.state ?? 'open' }
})
