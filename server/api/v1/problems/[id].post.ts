import { lookForProblems, PROBLEMS } from '../../../problems'

export default defineRoute('POST /problems/:id', ({ workspace, person, params: { id }, body }) => {
  const { store, db, clock, live } = workspace
  const problem = store.problems.get(id)
  if (!problem) throw notFound(`problem ${id}`)
  let answer = { tried: 0, done: 0 }
  switch (body.act) {
    case 'assign':
      if (body.person !== null && workspace.catalogue().person(body.person)?.active !== true)
        throw notFound(`person ${body.person}`)
      db.inTurn(() => store.problems.assign(id, body.person))
      break
    case 'accept': {
      const untilMs = body.days === null ? null : clock.nowMs() + body.days * 86_400_000
      db.inTurn(() => store.problems.accept(id, untilMs, person.id))
      break
    }
    case 'again': {
      const kind = PROBLEMS.find((one) => one.kind === problem.kind)
      if (!kind?.again) throw new ProblemError({ code: 'problemNotRetried' })
      answer = kind.again(workspace, problem.key, person.id)
      lookForProblems(workspace, true)
    }
  }
  live.tell({ about: 'problems' })
  return answer
})
