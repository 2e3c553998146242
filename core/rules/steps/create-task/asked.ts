import type { TaskAsks } from '../../../asks'
import type { Effect } from '../../../effects'
import type { Names } from '../../../fields/names'
import type { SkipReason } from '../../../language/reasons'
import { extra, say, word, type SentencePart } from '../../../language/sentence'
import type { Form } from '../../../language/widgets'
import { sayAmount } from '../../../time/spans'
import { mergeParts } from '../../merge'
import type { StepContext, StepProblem } from '../../step'
import { OWNER, sayWho } from '../../who'
import { checkTask, TASK_FORM, TASK_SHAPE, TASK_START, taskOf, type TaskParams } from './task'

/** A task that asks something: what is the same for every step that gives somebody one. */
export type AskedParams = Pick<TaskParams, 'title' | 'notes' | 'due' | 'priority' | 'email' | 'who' | 'remind'>

const { title, notes, due, priority, email, who, remind } = TASK_SHAPE
export const ASKED_SHAPE = { title, notes, due, priority, email, who, remind }

export const ASKED_FORM: Form<AskedParams> = {
  title: { ...TASK_FORM.title },
  notes: { ...TASK_FORM.notes },
  due: { ...TASK_FORM.due },
  priority: { ...TASK_FORM.priority },
  email: { widget: 'toggle', on: 'also by email, with a link to answer', off: 'no email' },
  who: { ...TASK_FORM.who },
  remind: { ...TASK_FORM.remind },
}

export const ASKED_START: AskedParams = {
  title: '',
  notes: '',
  due: { count: 1, unit: 'workdays' },
  priority: 'normal',
  email: false,
  who: OWNER,
  remind: 'never',
}

/** "ask the owner", what is asked for, and until when; behind it what is usual, folded. */
export function askedWords(
  {
    title: asked,
    notes: more,
    due: by,
    priority: weight,
    email: mailed,
    who: whom = OWNER,
    remind: reminded = 'never',
  }: AskedParams,
  verb: string,
  middle: readonly SentencePart[],
  names: Names,
  /** What stands for notes that are still to be written. */
  blank = 'add notes',
): { readonly said: readonly SentencePart[]; readonly texts: readonly SentencePart[] } {
  return {
    said: [
      say(verb),
      word('who', sayWho(whom, names.object, names.catalogue), 'someone'),
      ...middle,
      say(', due '),
      word('due', by.count === 0 ? 'the same day' : `in ${sayAmount(by.count, by.unit)}`, ''),
      say(', '),
      extra('priority', `${weight} priority`, weight === 'normal'),
      say(', '),
      extra('email', mailed ? 'also by email, with a link to answer' : 'no email', !mailed),
      say(', '),
      extra('remind', reminded === 'never' ? 'no reminder' : 'with a reminder', reminded === 'never'),
    ],
    texts: [
      { break: true },
      say('“'),
      ...mergeParts('title', asked, word('title', null, 'title'), names),
      say('”'),
      { break: true },
      ...mergeParts('notes', more, extra('notes', blank, true), names),
    ],
  }
}

const wholeOf = (params: AskedParams, taskKind: TaskParams['taskKind']): TaskParams => ({
  ...TASK_START,
  ...params,
  taskKind,
  again: true,
})

export const checkAsked = (params: AskedParams, names: Names): readonly StepProblem[] =>
  checkTask(wholeOf(params, 'todo'), names)

/** The task with what it asks, and the mail that tells of it; or why there is none. */
export function askedOf(
  params: AskedParams,
  taskKind: TaskParams['taskKind'],
  asks: TaskAsks,
  context: StepContext,
): { readonly effects: readonly Effect[] } | { readonly none: SkipReason } {
  const made = taskOf(wholeOf(params, taskKind), context)
  if ('none' in made) return made
  const assignee = made.effects.flatMap((one) => (one.effect === 'task' ? [one.task.assigneeId] : []))[0] ?? null
  return {
    effects: made.effects.map((one): Effect => {
      if (one.effect === 'task') return { ...one, task: { ...one.task, asks } }
      // Whoever gets the link may answer with it and without signing in.
      if (one.effect === 'message' && assignee !== null && asks.about !== 'call')
        return { ...one, message: { ...one.message, answers: assignee } }
      return one
    }),
  }
}
