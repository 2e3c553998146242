import { sees, seesQueue } from '../../../../core/access/scope'
import { answerTask } from '../../../engine/answer-task'

/** What a person does with a task. Finishing a finished one changes nothing, so that a repeated key does no harm. */
export default defineRoute('POST /tasks/:id', ({ workspace, person, scope, params: { id }, body: given }) => {
  const { tasks } = workspace.store
  const nowMs = workspace.clock.nowMs()
  const task = tasks.get(id)
  if (
    !task ||
    !(task.assigneeId === null ? seesQueue(scope, task.queue, workspace.catalogue()) : sees(scope, task.assigneeId))
  )
    throw notFound(`task ${id}`)
  if (given.act === 'handOver' && !workspace.catalogue().person(given.personId)?.active)
    throw notFound(`person “${given.personId}”`)
  if (task.state === 'withdrawn') throw new ProblemError({ code: 'taskWithdrawn' })
  if (task.state === 'done' && given.act !== 'reopen' && given.act !== 'finish')
    throw new ProblemError({ code: 'taskDone' })
  if (given.act === 'pull' && task.assigneeId !== null)
    throw new ProblemError({ code: 'taskTaken', who: workspace.catalogue().person(task.assigneeId)?.name ?? 'Someone' })
  if (given.act === 'return' && (task.queue === null || task.assigneeId === null))
    throw new ProblemError({ code: 'taskOfNoQueue' })
  if (given.act === 'finish' && task.assigneeId === null) throw new ProblemError({ code: 'taskInQueue' })
  workspace.db.atomically(() => {
    if (given.act === 'pull') tasks.pull(id, person.id, nowMs)
    if (given.act === 'return') tasks.putBack(id, person.id, nowMs)
    if (given.act === 'reopen' && task.state === 'done') tasks.reopen(id, person.id, nowMs)
    if (given.act === 'postpone') tasks.postpone(id, person.id, given.due, nowMs)
    if (given.act === 'handOver') tasks.handOver(id, person.id, given.personId, nowMs)
  })
  if (given.act === 'finish' && task.state === 'open')
    answerTask(workspace, task, person.id, given.outcome, given.answers)
  workspace.live.tell({
    about: 'tasks',
    people: [
      ...(task.assigneeId === null ? [] : [task.assigneeId]),
      person.id,
      ...(given.act === 'handOver' ? [given.personId] : []),
      ...(task.queue === null
        ? []
        : workspace
            .catalogue()
            .people.filter((one) => one.team === task.queue)
            .map((one) => one.id)),
    ],
  })
  workspace.live.tell({ about: 'records', refs: [{ object: task.object, id: task.recordId }] })
  return { state: tasks.get(id)?.state ?? 'open' }
})
