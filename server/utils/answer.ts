import type { H3Event } from 'h3'
import { sayProblem } from '../../core/language/problems'
import { readAnswerLink } from '../engine/answer-link'
import { answerTask } from '../engine/answer-task'
import { RefusedError } from '../engine/workspace'
import { answeredPage, askPage, closedPage } from '../pages/answer'
import { strangerPage } from '../pages/preferences'
import { aroundOf, showPage } from './booking'
import { useWorkspace } from './workspace'

/** What a colleague sees and does who follows a link to answer. */

type Form = Readonly<Record<string, string>>

/** What the form holds, in the types of the questions. */
function answersIn(form: Form, types: ReadonlyMap<string, string>): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(form).flatMap(([name, text]): [string, unknown][] => {
      if (!name.startsWith('a-') || text === '') return []
      const key = name.slice(2)
      const type = types.get(key)
      return [[key, type === 'number' ? Number(text) : type === 'yesNo' ? text === 'yes' : text]]
    }),
  )
}

export function showAnswer(event: H3Event, form: Form | null): string {
  const workspace = useWorkspace()
  const token = getRouterParam(event, 'token') ?? ''
  const found = readAnswerLink(workspace.store, token)
  const who = found && workspace.catalogue().person(found.personId)
  if (!found || !who) return showPage(event, strangerPage(aroundOf(event)), 404)
  const { task, personId } = found
  if (task.state === 'done') return showPage(event, answeredPage(aroundOf(event), task, false))
  if (task.state !== 'open' || task.assigneeId !== personId || !who.active)
    return showPage(event, closedPage(aroundOf(event)), 410)
  if (!form) return showPage(event, askPage(aroundOf(event), token, who.name, task))
  const questions = task.asks?.about === 'questions' ? task.asks.questions : []
  try {
    answerTask(workspace, task, personId, '', answersIn(form, new Map(questions.map(({ key, type }) => [key, type]))))
  } catch (error) {
    if (!(error instanceof RefusedError)) throw error
    const problem = error.problems.map((one) => sayProblem(one.problem)).join(' ')
    return showPage(event, askPage(aroundOf(event, problem), token, who.name, task, form), 422)
  }
  workspace.live.tell({ about: 'tasks', people: [personId] })
  workspace.live.tell({ about: 'records', refs: [{ object: task.object, id: task.recordId }] })
  return showPage(event, answeredPage(aroundOf(event), workspace.store.tasks.get(task.id) ?? task, true))
}
