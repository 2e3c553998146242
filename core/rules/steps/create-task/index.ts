import { OBJECTS } from '../../../records/kinds'
import { z } from 'zod'
import type { Names } from '../../../fields/names'
import { extra, say, word } from '../../../language/sentence'
import { defineStep } from '../../step'
import { anchorOf, checkWhen, sayWhen, shortWhen, whenAt, zWhen, type When } from '../../when'
import { checkTask, TASK_FORM, TASK_SHAPE, TASK_START, taskOf, taskWords, type TaskParams } from './task'

interface Params extends TaskParams {
  /** When it appears; at once, when left out. */
  later?: When | undefined
}

/** "100 days later", "2 days before the deal’s expected close, at 9:00". */
function laterWords(later: When, { object, catalogue }: Names): string | null {
  const said = sayWhen(later, object, catalogue, 'at')
  return said === null ? null : later.at === 'after' ? `after ${said}` : later.at === 'hours' ? `when ${said}` : said
}

export const createTask = defineStep<'createTask', Params>({
  kind: 'createTask',
  category: 'people',
  does: 'create a task',
  alsoCalled: ['assign', 'follow up', 'remind', 'call', 'to-do', 'visit', 'email', 'activity'],
  objects: [...OBJECTS, 'none'],
  params: z.strictObject({ ...TASK_SHAPE, later: zWhen.optional() }),
  form: {
    ...TASK_FORM,
    who: { widget: 'who', owner: true, queue: true, everyone: true },
    later: { widget: 'when', none: 'right away' },
  },
  start: { ...TASK_START, later: undefined },
  sentence(params, names) {
    const { later } = params
    const { said, texts } = taskWords(params, names)
    return [
      ...(later ? [word('later', laterWords(later, names), 'later'), say(': ')] : []),
      ...said,
      ...(later ? [] : [say(', '), extra('later', 'right away', true)]),
      ...texts,
    ]
  },
  check(params, names) {
    const wrong = params.later ? checkWhen(params.later, names.object, names.catalogue) : null
    return [
      ...(wrong ? [{ param: 'later', problem: wrong }] : []),
      ...checkTask(params, names, { queue: true, everyone: true }),
    ]
  },
  gives: () => [
    { key: 'title', label: 'task title', type: 'text' },
    { key: 'due', label: 'task due date', type: 'date' },
    { key: 'who', label: 'task assignee', type: 'person' },
  ],
  rail: ({ later }) => (later ? { own: shortWhen(later) } : {}),
  mayWait: ({ later }) => later !== undefined,
  waitsFor: ({ later }) => ({ anchor: later ? anchorOf(later) : null, signals: [] }),
  movedTo: ({ later }, { record, moment, catalogue }) =>
    later
      ? whenAt(later, record.values, record.object, moment, catalogue)
      : { none: { code: 'own' as const, say: 'the task is created right away' } },
  run(params, context) {
    const { later } = params
    const { catalogue, moment, record } = context
    if (later && !context.due) {
      const at = whenAt(later, record.values, record.object, moment, catalogue)
      if (typeof at !== 'number') return { go: 'skip', reason: at.none }
      if (at > moment.nowMs) return { go: 'later', dueMs: at, say: 'the task will be created later' }
    }
    const made = taskOf(params, context)
    return 'none' in made ? { go: 'skip', reason: made.none } : { go: 'on', ...made }
  },
  examples: [
    {
      say: 'gives the owner a task',
      params: {
        title: 'Ring about {{deal.name}}',
        notes: '',
        taskKind: 'call',
        due: { count: 2, unit: 'workdays' },
        priority: 'high',
        again: false,
        email: true,
      },
      record: { name: 'Two rooms', owner: 'rosa' },
      expect: {
        go: 'on',
        effects: [
          {
            effect: 'task',
            task: {
              ref: { object: 'deal', id: 1 },
              title: 'Ring about Two rooms',
              notes: '',
              taskKind: 'call',
              priority: 'high',
              due: '2026-11-26',
              assigneeId: 'rosa',
              queue: null,
              remindAt: null,
            },
          },
          {
            effect: 'message',
            message: {
              channel: 'mail',
              recipient: 'rosa@larkmoor.example',
              subject: 'Ring about Two rooms',
              body: 'Due 26 Nov 2026.',
            },
          },
        ],
      },
    },
    {
      say: 'goes to the deputy while the owner is away',
      params: {
        title: 'Visit',
        notes: '{{deal.amount}}',
        taskKind: 'visit',
        due: { count: 0, unit: 'days' },
        priority: 'low',
        again: true,
        email: false,
      },
      record: { owner: 'piet' },
      expect: {
        go: 'on',
        effects: [
          {
            effect: 'task',
            task: {
              ref: { object: 'deal', id: 1 },
              title: 'Visit',
              notes: '(no amount)',
              taskKind: 'visit',
              priority: 'low',
              due: '2026-11-24',
              assigneeId: 'rosa',
              queue: null,
              remindAt: null,
            },
          },
        ],
      },
    },
    {
      say: 'lies in a queue until someone takes it, with a reminder',
      params: {
        title: 'Visit',
        notes: '',
        taskKind: 'visit',
        due: { count: 1, unit: 'workdays' },
        priority: 'low',
        again: true,
        email: true,
        who: { by: 'queue', team: 'Hire' },
        remind: 'onDay',
      },
      expect: {
        go: 'on',
        effects: [
          {
            effect: 'task',
            task: {
              ref: { object: 'deal', id: 1 },
              title: 'Visit',
              notes: '',
              taskKind: 'visit',
              priority: 'low',
              due: '2026-11-25',
              assigneeId: null,
              queue: 'Hire',
              remindAt: Date.UTC(2026, 10, 25, 9),
            },
          },
        ],
      },
    },
    {
      say: 'is followed by people who work here',
      params: {
        ...TASK_START,
        title: 'Look',
        due: { count: 0, unit: 'days' },
        followers: ['jude', 'nobody-such'],
      },
      record: { owner: 'rosa' },
      expect: {
        go: 'on',
        effects: [
          {
            effect: 'task',
            task: {
              ref: { object: 'deal', id: 1 },
              title: 'Look',
              notes: '',
              taskKind: 'call',
              priority: 'normal',
              due: '2026-11-24',
              assigneeId: 'rosa',
              queue: null,
              remindAt: null,
              followers: ['jude'],
            },
          },
        ],
      },
    },
    {
      say: 'is due before a date of the record',
      params: {
        ...TASK_START,
        title: 'Close it',
        due: { count: 1, unit: 'workdays' },
        dueOn: {
          at: 'field',
          field: 'closeDate',
          side: 'before',
          amount: { count: 2, unit: 'workdays' },
          minute: null,
        },
      },
      record: { owner: 'rosa', closeDate: '2026-12-10' },
      expect: { go: 'on', gives: { title: 'Close it', due: '2026-12-08', who: 'rosa' } },
    },
    {
      say: 'is due in a while where that day is past',
      params: {
        ...TASK_START,
        title: 'Close it',
        due: { count: 1, unit: 'workdays' },
        dueOn: {
          at: 'field',
          field: 'closeDate',
          side: 'before',
          amount: { count: 2, unit: 'workdays' },
          minute: null,
        },
      },
      record: { owner: 'rosa', closeDate: '2026-11-25' },
      expect: { go: 'on', gives: { title: 'Close it', due: '2026-11-25', who: 'rosa' } },
    },
    {
      say: 'is due in a while without the date',
      params: {
        ...TASK_START,
        title: 'Close it',
        due: { count: 1, unit: 'workdays' },
        dueOn: {
          at: 'field',
          field: 'closeDate',
          side: 'before',
          amount: { count: 2, unit: 'workdays' },
          minute: null,
        },
      },
      record: { owner: 'rosa', closeDate: null },
      expect: { go: 'on', gives: { title: 'Close it', due: '2026-11-25', who: 'rosa' } },
    },
    {
      say: 'appears later',
      params: {
        title: 'Review',
        notes: '',
        taskKind: 'todo',
        due: { count: 0, unit: 'days' },
        priority: 'low',
        again: true,
        email: false,
        later: { at: 'field', field: 'closeDate', side: 'before', amount: { count: 2, unit: 'days' }, minute: 540 },
      },
      record: { owner: 'rosa', closeDate: '2026-12-10' },
      expect: { go: 'later', dueMs: Date.UTC(2026, 11, 8, 9) },
    },
    {
      say: 'has no date to be counted from',
      params: {
        title: 'Review',
        notes: '',
        taskKind: 'todo',
        due: { count: 0, unit: 'days' },
        priority: 'low',
        again: true,
        email: false,
        later: { at: 'field', field: 'closeDate', side: 'before', amount: { count: 2, unit: 'days' }, minute: 540 },
      },
      record: { owner: 'rosa', closeDate: null },
      expect: { go: 'skip', reason: { code: 'emptyField', field: 'Expected close' } },
    },
    {
      say: 'has no one to go to',
      params: {
        title: 'Visit',
        notes: '',
        taskKind: 'visit',
        due: { count: 0, unit: 'days' },
        priority: 'low',
        again: false,
        email: false,
      },
      record: { owner: null },
      expect: { go: 'skip', reason: { code: 'nobody', field: 'Owner' } },
    },
  ],
})
