import { ruleFor } from '../../../../core/habits/as-rule'

export default defineRoute('POST /suggestions/:id', ({ workspace, person, params: { id }, body: { act } }) => {
  const { db, store, clock, live } = workspace
  const found = store.habits.get(id)
  if (!found || found.dismissedBy !== null || found.ruleId !== null) throw notFound(`suggestion ${id}`)
  if (act === 'dismiss') {
    db.inTurn(() => store.habits.dismiss(id, person.id))
    live.tell({ about: 'problems' })
    return { ruleId: null }
  }
  const document = ruleFor(found.habit, found.object, workspace.catalogue())
  if (!document) throw new ProblemError({ code: 'suggestionOutdated' })
  const ruleId = db.inTurn(() =>
    db.atomically(() => {
      const made = store.rules.create(document, person.id, clock.nowMs())
      store.habits.made(id, made)
      return made
    }),
  )
  workspace.rulesChanged()
  live.tell({ about: 'rules' })
  live.tell({ about: 'problems' })
  return { ruleId }
})
