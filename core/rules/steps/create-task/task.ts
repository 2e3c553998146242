import { z } from 'zod'
import { zAmount } from '../../../conditions/operators/dates'
import type { Effect } from '../../../effects'
import type { Names } from '../../../fields/names'
import type { SkipReason } from '../../../language/reasons'
import { listOf } from '../../../language/counts'
import { extra, say, word, type SentencePart } from '../../../language/sentence'
import type { Values } from '../../../language/value'
import type { Form } from '../../../language/widgets'
import { PRIORITIES, TASK_KINDS, TASK_KIND_WORDS, type Priority, type TaskKind } from '../../../records/task'
import { addWorkdays } from '../../../time/calendar'
import { instantAt } from '../../../time/moments'
import { sayDate } from '../../../time/say'
import { sayAmount, shiftDate, SPAN_UNITS, type SpanUnit } from '../../../time/spans'
import { hoursOf } from '../../clock'
import { checkText, fillText, mergeParts } from '../../merge'
import type { Problem } from '../../../language/problems'
import { dayOf } from '../../../fields/types/date'
import type { StepContext, StepProblem } from '../../step'
import { checkWhen, sayWhen, zWhen, type When } from '../../when'
import { checkWho, chooseAll, OWNER, sayWho, zWho, type Who, type WhoMay } from '../../who'
import type { Person } from '../../../fields/field'

/** The task that a step makes, whatever else the step does: what is asked for, how it reads, and what comes of it. */
export interface TaskParams {
  title: string
  notes: string
  taskKind: TaskKind
  due: { count: number; unit: SpanUnit }
  priority: Priority
  again: boolean
  /** Whether whoever gets the task is told by mail. */
  email: boolean
  /**
   * Counted from a date of the record instead of from the day the step runs. Where that date is empty, or what it comes
   * to is past, `due` holds after all.
   */
  dueOn?: When | undefined
  /** Who gets it; the owner, when left out. */
  who?: Who | undefined
  /** When whoever has it is reminded in the app; never, when left out. */
  remind?: Remind | undefined
  /** People who see the task as well, and hear when it is done. */
  followers?: readonly string[] | undefined
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

const FOLLOWERS_MOST = 20
const TITLE_MOST = 200
const NOTES_MOST = 4000

/** A title may grow past its limit once its merge fields are filled; it is cut then, never refused. */
const cut = (text: string, most: number): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text)

export const TASK_SHAPE = {
  title: z.string().max(TITLE_MOST),
  notes: z.string().max(NOTES_MOST),
  taskKind: z.enum(TASK_KINDS),
  due: zAmount,
  priority: z.enum(PRIORITIES),
  again: z.boolean(),
  email: z.boolean(),
  dueOn: zWhen.optional(),
  who: zWho.optional(),
  remind: z.enum(REMIND).optional(),
  followers: z.array(z.string().max(100)).max(FOLLOWERS_MOST).optional(),
}

export const TASK_FORM: Form<TaskParams> = {
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
  dueOn: {
    widget: 'when',
    none: 'counted from the day the step runs',
    ways: ['field'],
    dateOnly: true,
    label: 'Due by a date',
  },
  priority: { widget: 'pick', options: PRIORITIES.map((value) => ({ value, label: `${value} priority` })) },
  again: { widget: 'toggle', on: 'even if the same task is open', off: 'unless the same task is open' },
  email: { widget: 'toggle', on: 'notify by email', off: 'no email' },
  who: { widget: 'who', owner: true, queue: true },
  remind: { widget: 'pick', options: REMIND.map((value) => ({ value, label: REMIND_WORDS[value] })) },
  followers: { widget: 'people', none: 'no one' },
}

export const TASK_START: TaskParams = {
  title: '',
  notes: '',
  taskKind: 'call',
  due: { count: 2, unit: 'workdays' },
  priority: 'normal',
  again: false,
  email: false,
  dueOn: undefined,
  who: OWNER,
  remind: 'never',
  followers: undefined,
}

const sayFollowers = (followers: readonly string[], { catalogue }: Names): string =>
  followers.length === 0
    ? 'no followers'
    : `followed by ${listOf(followers.map((id) => catalogue.person(id)?.name ?? id))}`

/** "create a task for the owner: call, due in 2 working days", and its texts, each on a line of its own. */
export function taskWords(
  {
    title,
    notes,
    taskKind,
    due,
    dueOn,
    priority,
    again,
    email,
    who = OWNER,
    remind = 'never',
    followers = [],
  }: TaskParams,
  names: Names,
): { readonly said: readonly SentencePart[]; readonly texts: readonly SentencePart[] } {
  return {
    said: [
      say('create a task for '),
      word('who', sayWho(who, names.object, names.catalogue), 'someone'),
      say(': '),
      extra('taskKind', TASK_KIND_WORDS[taskKind], taskKind === 'todo'),
      say(', due '),
      ...(dueOn ? [word('dueOn', sayWhen(dueOn, names.object, names.catalogue), 'a date'), say(', or ')] : []),
      word(
        'due',
        due.count === 0
          ? due.unit === 'workdays'
            ? 'on the same or next working day'
            : 'the same day'
          : `in ${sayAmount(due.count, due.unit)}`,
        '',
      ),
      ...(dueOn
        ? [say(' if that is empty or past')]
        : [say(', '), extra('dueOn', 'counted from the day the step runs', true)]),
      say(', '),
      extra('priority', `${priority} priority`, priority === 'normal'),
      say(', '),
      extra('again', again ? 'even if the same task is open' : 'unless the same task is open', !again),
      say(', '),
      extra('email', email ? 'notify by email' : 'no email', !email),
      say(', '),
      extra('remind', REMIND_WORDS[remind], remind === 'never'),
      say(', '),
      extra('followers', sayFollowers(followers, names), followers.length === 0),
    ],
    texts: [
      { break: true },
      say('“'),
      ...mergeParts('title', title, word('title', null, 'title'), names),
      say('”'),
      { break: true },
      ...mergeParts('notes', notes, extra('notes', 'add notes', true), names),
    ],
  }
}

export function checkTask(
  { title, notes, dueOn, who = OWNER }: TaskParams,
  names: Names,
  may: WhoMay = { queue: true },
): readonly StepProblem[] {
  const { catalogue, object } = names
  const problems: StepProblem[] = []
  const nobody = checkWho(who, names, may)
  if (nobody) problems.push({ param: 'who', problem: nobody })
  if (dueOn) {
    const wrong: Problem | null =
      dueOn.at === 'field' ? checkWhen(dueOn, object, catalogue) : { code: 'missing', what: 'dateField' }
    if (wrong) problems.push({ param: 'dueOn', problem: wrong })
  }
  if (title.trim() === '') problems.push({ param: 'title', problem: { code: 'missing', what: 'title' } })
  for (const problem of checkText(title, object, catalogue)) problems.push({ param: 'title', problem })
  for (const problem of checkText(notes, object, catalogue)) problems.push({ param: 'notes', problem })
  return problems
}

/** The day it is due: by the date of the record, where that gives one that is not past. */
function dueDay(due: TaskParams['due'], on: When | undefined, { record, moment }: StepContext): string {
  const value = on?.at === 'field' && on.field !== null ? record.values[on.field] : null
  if (on?.at === 'field' && (typeof value === 'string' || typeof value === 'number')) {
    const { count, unit } = on.amount
    const from = dayOf(value, moment.zone)
    const whole = SPAN_UNITS.find((one) => one === unit)
    const by = on.side === 'on' || !whole ? 0 : on.side === 'before' ? -count : count
    const day = by === 0 || !whole ? from : shiftDate(from, by, whole, moment.calendar)
    if (day >= moment.today) return day
  }
  return shiftDate(moment.today, due.count, due.unit, moment.calendar)
}

/** The task with whatever goes with it; or why there is none. */
export function taskOf(
  {
    title,
    notes,
    taskKind,
    due,
    dueOn,
    priority,
    again,
    email,
    who: wanted = OWNER,
    remind = 'never',
    followers = [],
  }: TaskParams,
  context: StepContext,
): { readonly effects: readonly Effect[]; readonly gives: Values } | { readonly none: SkipReason } {
  const { catalogue, record, related } = context
  // Of several people each has a task of their own, and each keeps only that person from another.
  const open = again || wanted.by === 'everyone' ? null : context.openTask()
  if (open !== null) return { none: { code: 'stillOpen', title: open } }
  const day = dueDay(due, dueOn, context)
  const queue = wanted.by === 'queue' ? wanted.team : null
  const chosen = queue === null ? chooseAll(wanted, record.values, day, context) : null
  if (chosen && 'none' in chosen) return chosen
  const free = chosen?.people.filter(({ id }) => again || wanted.by !== 'everyone' || context.openTask(id) === null)
  if (free?.length === 0) return { none: { code: 'stillOpen', title: context.openTask() ?? title } }
  const fill = (text: string, most: number) => cut(fillText(text, record, related, catalogue).trim(), most)
  const ref = { object: record.object, id: record.id }
  const seeing = followers.filter((id) => catalogue.person(id)?.active)
  const task = (who: Person | null) => ({
    ref,
    title: fill(title, TITLE_MOST).replace(/\s+/g, ' '),
    notes: fill(notes, NOTES_MOST),
    taskKind,
    priority,
    due: day,
    assigneeId: who?.id ?? null,
    queue,
    remindAt: reminderAt(remind, day, context),
    ...(seeing.length > 0 ? { followers: seeing } : {}),
  })
  const given = (free ?? [null]).map((who) => ({ who, task: task(who) }))
  const sent = given.flatMap(({ who, task: { title: subject, notes: said } }): Effect[] =>
    email && who
      ? [
          {
            effect: 'message',
            message: {
              channel: 'mail',
              recipient: who.email,
              subject,
              body: `Due ${sayDate(day)}. ${said}`.trim(),
            },
            ...(wanted.by === 'everyone' ? { each: who.id } : {}),
          },
        ]
      : [],
  )
  const [first, ...more] = given
  return {
    effects: [
      ...given.map((one): Effect => ({ effect: 'task', task: one.task })),
      ...sent,
      ...(chosen?.turn ? [{ effect: 'turn' as const }] : []),
    ],
    gives: { title: first?.task.title ?? null, due: day, who: more.length > 0 ? null : (first?.who?.id ?? null) },
  }
}

const TASK_STEPS: readonly string[] = ['createTask', 'taskAndWait', 'askColleague', 'approval', 'makeCall']

/** Whether a step gives somebody a task. */
export const makesTask = ({ kind }: { readonly kind: string }): boolean => TASK_STEPS.includes(kind)
