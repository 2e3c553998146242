import { sees } from '../../../auth/scope'

/** What a person does with a task. Finishing a finished one changes nothing, so that a repeated key does no harm. */
export default defineRoute('POST /tasks/:id', ({ workspace, person, scope, params: { id }, body: given }) => {
  const { tasks } = workspace.store
  const nowMs = workspace.clock.nowMs()
  const task = tasks.get(id)
  if (!task || !sees(scope, task.assigneeId)) throw notFound(`task ${id}`)
  if (given.act === 'handOver' && !workspace.catalogue().person(given.personId)?.active) throw notFound(`person “${given.personId}”`)
  if (task.state === 'withdrawn') throw new ProblemError(409, 'Withdrawn', 'The run that made this task was taken back.')
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
