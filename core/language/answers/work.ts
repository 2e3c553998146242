import type { CountedObject } from '../nouns'
import { count } from '../counts'
import { NOUNS } from '../nouns'
import { atPlace, type Answer } from './answer'

const conflict = (title: string, detail: string): Answer => ({ status: 409, title, detail })

/** Tasks, what is ahead, imports, and the other things that people work with. */
export const WORK_ANSWERS = {
  taskWithdrawn: () => conflict('Withdrawn', 'The run that created this task was undone.'),
  taskDone: () => conflict('Already done', 'Reopen the task first.'),
  taskTaken: ({ who }: { readonly who: string }) => conflict('Already taken', `${who} has taken this task.`),
  taskOfNoQueue: () => conflict('Not from a queue', 'This task did not come from a queue.'),
  taskInQueue: () => conflict('In a queue', 'Take the task first.'),

  postponeWhere: () => atPlace('toMs', 'Choose a date to postpone to.'),
  timePassed: () => atPlace('toMs', 'Choose a time in the future.'),
  problemNotRetried: () => conflict('Not possible', 'This can’t be tried again: fix the cause.'),

  clockReal: () => conflict('Real clock', 'Only the clock of a demo workspace can be moved.'),
  clockTooFar: ({ days }: { readonly days: number }) =>
    atPlace('toMs', `Move the clock at most ${count(days, 'day')} at a time.`),
  noSimulation: () => conflict('No simulation', 'Only a demo workspace has a simulated website.'),

  importStarted: () => conflict('Already running', 'This import has already been started.'),
  columnsFixed: () => conflict('Already running', 'The columns of a started import can’t be changed.'),
  nothingAdded: () => conflict('Already running', 'Nothing can be added for an import that has been started.'),
  importNotRunning: () => conflict('Not running', 'This import is not running.'),
  importedFileGone: (): Answer => ({
    status: 410,
    title: 'File deleted',
    detail: 'The imported file is not stored any more, so its rows can’t be downloaded.',
  }),
  /** The places name each column. */
  columnsWrong: (): Answer => ({ status: 422, title: 'Not saved', detail: 'Fix the columns first.' }),

  fieldsOnce: () => atPlace('ids', 'List every field exactly once.'),
  fieldUnknown: ({ id }: { readonly id: number }) => atPlace('ids', `Field ${id} does not exist.`),
  linkOtherWay: ({ from, to }: { readonly from: CountedObject; readonly to: CountedObject }) =>
    atPlace('to.object', `Link the ${NOUNS[to].one} to the ${NOUNS[from].one} instead.`),
  storageTooShort: ({ what, days }: { readonly what: string; readonly days: number }) =>
    atPlace(
      'days',
      `${what}: ${count(days, 'day')} or more, because rules and rehearsals look back that far.`,
      'Time not saved',
    ),
  pageAddressInUse: () => atPlace('slug', 'This address is in use. Choose another.'),
  personNotHere: ({ person }: { readonly person: string }) => atPlace('people', `${person} does not work here.`),

  requestUnderWay: () => conflict('On its way', 'This request is still on its way.'),
  noAnswerAwaited: () => conflict('No answer awaited', 'This request waits for no answer.'),
} as const
