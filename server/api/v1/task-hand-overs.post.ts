import { sees } from '../../../core/access/scope'

export default defineRoute('POST /task-hand-overs', ({ workspace, person, scope, body: { ids, person: to } }) => {
  if (!workspace.catalogue().person(to)?.active) throw notFound(`person “${to}”`)
  const { tasks } = workspace.store
  const nowMs = workspace.clock.nowMs()
  const from = new Set<string>()
  const refs: Parameters<typeof workspace.live.tell>[0][] = []
  const handedOver = workspace.db.inTurn(() =>
    workspace.db.atomically(() => {
      let count = 0
      for (const id of new Set(ids)) {
        const task = tasks.get(id)
        if (task?.state !== 'open' || task.assigneeId === null || !sees(scope, task.assigneeId)) continue
        if (task.assigneeId === to) continue
        tasks.handOver(id, person.id, to, nowMs)
        from.add(task.assigneeId)
        refs.push({ about: 'records', refs: [{ object: task.object, id: task.recordId }] })
        count++
      }
      return count
    }),
  )
  workspace.live.tell({ about: 'tasks', people: [...from, to] })
  for (const message of refs) workspace.live.tell(message)
  return { handedOver }
})
