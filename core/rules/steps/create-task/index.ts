import { z } from 'zod'
import { hoursOf } from '../../clock'
import { addWorkdays } from '../../../time/calendar'
import { instantAt } from '../../../time/moments'
import { zAmount } from '../../../conditions/operators/dates'
import { PRIORITIES, TASK_KINDS, TASK_KIND_WORDS, type Priority, type TaskKind } from '../../../records/task'
import type { Effect } from '../../../effects'
import type { Outcome } from '../../../engine/outcome'
import { sayDate } from '../../../time/say'
import { sayAmount, shiftDate, SPAN_UNITS, type SpanUnit } from '../../../time/spans'
import { checkText, fillText, mergeParts } from '../../merge'
import { defineStep, type StepContext, type StepProblem } from '../../step'
import { anchorOf, checkWhen, sayWhen, shortWhen, whenAt, zWhen, type When } from '../../when'
import { checkWho, chooseWho, OWNER, sayWho, zWho, type Who } from '../../who'
import { say, word, extra } from '../../../language/sentence'
import type { Names } from '../../../fields/names'

interface Params {
  title: string
  notes: string
  taskKind: TaskKind
  due: { count: number; unit: SpanUnit }
  priority: Priority
  again: boolean
  /** Whether whoever gets the task is told by mail. */
  email: boolean
  /** Who gets it; the owner, when left out. */
  who?: Who | undefined
  /** When it appears; at once, when left out. */
  later?: When | undefined
  /** When whoever has it is reminded in the app; never, when left out. */
  remind?: Remind | undefined
}

const REMIND = ['never', 'onDay', 'dayBefore'] as const
type Remind = (typeof REMIND)[number]
const REMIND_WORDS: { readonly [R in Remind]: string } = {
  never: 'no reminder',
  onDay: 'reminder in the morning of the due date',
  dayBefore: 'reminder one working day before',
}

/** When the office opens on the day it is due, or on the working day before. */
function reminderAt(remind: Remind, due: string, { catalogue, moment, record }: StepContext): number | null {
  if (remind === 'never') return null
  const day = remind === 'onDay' ? due : addWorkdays(due, -1, moment.calendar)
  return instantAt(day, hoursOf(catalogue, record.values.owner).opensAt, moment.zone)
}

/** "100 days later", "2 days before the deal’s expected close, at 9:00". */
function laterWords(later: When, { object, catalogue }: Names): string | null {
  const said = sayWhen(later, object, catalogue, 'at')
  return said === null ? null : later.at === 'after' ? `after ${said}` : later.at === 'hours' ? `when ${said}` : said
}

const TITLE_MOST = 200
const NOTES_MOST = 4000

/** A title may grow past its limit once its merge fields are filled; it is cut then, never refused. */
const cut = (text: string, most: number): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text)

export const createTask = defineStep<'createTask', Params>({
  kind: 'createTask',
  hue: 'people',
  does: 'create a task',
  alsoCalled: ['assign', 'follow up', 'remind', 'call', 'to-do', 'visit', 'email', 'activity'],
  objects: ['deal', 'contact', 'company'],
  params: z.strictObject({
    title: z.string().max(TITLE_MOST),
    notes: z.string().max(NOTES_MOST),
    taskKind: z.enum(TASK_KINDS),
    due: zAmount,
    priority: z.enum(PRIORITIES),
    again: z.boolean(),
    email: z.boolean(),
    who: zWho.optional(),
    later: zWhen.optional(),
    remind: z.enum(REMIND).optional(),
  }),
  form: {
    title: { widget: 'mergeText', lines: 'one', most: TITLE_MOST },
    notes: { widget: 'mergeText', lines: 'many', most: NOTES_MOST },
    taskKind: { widget: 'pick', options: TASK_KINDS.map((value) => ({ value, label: TASK_KIND_WORDS[value] })) },
    due: {
      widget: 'amount',
      min: 0,
      max: 3650,
      units: SPAN_UNITS,
      note: 'Counted from the day the step runs. 0 means the same day, or the next working day if it is a day off.',
    },
    priority: { widget: 'pick', options: PRIORITIES.map((value) => ({ value, label: `${value} priority` })) },
    again: { widget: 'toggle', on: 'even if the same task is open', off: 'unless the same task is open' },
    email: { widget: 'toggle', on: 'notify by email', off: 'no email' },
    who: { widget: 'who', owner: true, queue: true },
    later: { widget: 'when', none: 'right away' },
    remind: { widget: 'pick', options: REMIND.map((value) => ({ value, label: REMIND_WORDS[value] })) },
  },
  start: {
    title: '',
    notes: '',
    taskKind: 'call',
    due: { count: 2, unit: 'workdays' },
    priority: 'normal',
    again: false,
    email: false,
    who: OWNER,
    later: undefined,
    remind: 'never',
  },
  sentence({ title, notes, taskKind, due, priority, again, email, who = OWNER, later, remind = 'never' }, names) {
    return [
      ...(later ? [word('later', laterWords(later, names), 'later'), say(': ')] : []),
      say('create a task for '),
      word('who', sayWho(who, names.object, names.catalogue), 'someone'),
      say(': '),
      extra('taskKind', TASK_KIND_WORDS[taskKind], taskKind === 'todo'),
      say(', due '),
      word(
        'due',
        due.count === 0
          ? due.unit === 'workdays'
            ? 'on the same or next working day'
            : 'the same day'
          : `in ${sayAmount(due.count, due.unit)}`,
        '',
      ),

      say(', '),
      extra('priority', `${priority} priority`, priority === 'normal'),
      say(', '),
      extra('again', again ? 'even if the same task is open' : 'unless the same task is open', !again),
      say(', '),
      extra('email', email ? 'notify by email' : 'no email', !email),
      say(', '),
      extra('remind', REMIND_WORDS[remind], remind === 'never'),
      ...(later ? [] : [say(', '), extra('later', 'right away', true)]),
      { break: true },
      say('“'),
      ...mergeParts('title', title, word('title', null, 'title'), names),
      say('”'),
      { break: true },
      ...mergeParts('notes', notes, extra('notes', 'add notes', true), names),
    ]
  },
  check({ title, notes, who = OWNER, later }, { catalogue, object }) {
    const problems: StepProblem[] = []
    const wrong = later ? checkWhen(later, object, catalogue) : null
    if (wrong) problems.push({ param: 'later', problem: wrong })
    const nobody = checkWho(who, catalogue, true)
    if (nobody) problems.push({ param: 'who', problem: nobody })
    if (title.trim() === '') problems.push({ param: 'title', problem: { code: 'missing', what: 'title' } })
    for (const problem of checkText(title, object, catalogue)) problems.push({ param: 'title', problem })
    for (const problem of checkText(notes, object, catalogue)) problems.push({ param: 'notes', problem })
    return problems
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
  run(
    { title, notes, taskKind, due, priority, again, email, who: wanted = OWNER, later, remind = 'never' },
    context,
  ): Outcome {
    const { catalogue, moment, record, related } = context
    if (later && !context.due) {
      const at = whenAt(later, record.values, record.object, moment, catalogue)
      if (typeof at !== 'number') return { go: 'skip', reason: at.none }
      if (at > moment.nowMs) return { go: 'later', dueMs: at, say: 'the task will be created later' }
    }
    const open = again ? null : context.openTask()
    if (open !== null) return { go: 'skip', reason: { code: 'stillOpen', title: open } }
    const day = shiftDate(moment.today, due.count, due.unit, moment.calendar)
    const queue = wanted.by === 'queue' ? wanted.team : null
    const chosen = queue === null ? chooseWho(wanted, record.values, day, context) : null
    if (chosen && 'none' in chosen) return { go: 'skip', reason: chosen.none }
    const who = chosen?.person ?? null
    const fill = (text: string, most: number) => cut(fillText(text, record, related, catalogue).trim(), most)
    const ref = { object: record.object, id: record.id }
    const task = {
      ref,
      title: fill(title, TITLE_MOST).replace(/\s+/g, ' '),
      notes: fill(notes, NOTES_MOST),
      taskKind,
      priority,
      due: day,
      assigneeId: who?.id ?? null,
      queue,
      remindAt: reminderAt(remind, day, context),
    }
    const sent: readonly Effect[] =
      email && who
        ? [
            {
              effect: 'message',
              message: {
                channel: 'mail',
                recipient: who.email,
                subject: task.title,
                body: `Due ${sayDate(day)}. ${task.notes}`.trim(),
              },
            },
          ]
        : []
    return {
      go: 'on',
      effects: [{ effect: 'task', task }, ...sent, ...(chosen?.turn ? [{ effect: 'turn' as const }] : [])],
      gives: { title: task.title, due: day, who: who?.id ?? null },
    }
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
      say: 'lies in a queue until somebody takes it, with a reminder',
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
      say: 'has nobody to go to',
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
