import { z } from 'zod'
import { zAmount } from '../../../conditions/operators/dates'
import { PRIORITIES, TASK_KINDS, TASK_KIND_WORDS, type Effect, type Outcome, type Priority, type TaskKind } from '../../../engine/effects'
import { sayDate } from '../../../time/say'
import { sayAmount, shiftDate, SPAN_UNITS, type SpanUnit } from '../../../time/spans'
import { checkText, fillText, mergeParts } from '../../merge'
import { say, word } from '../../sentence'
import { defineStep, type StepProblem } from '../../step'
import { checkWho, chooseWho, OWNER, sayWho, zWho, type Who } from '../../who'

interface Params {
  title: string
  notes: string
  taskKind: TaskKind
  due: { count: number; unit: SpanUnit }
  priority: Priority
  again: boolean
  /** Whether whoever gets the task is told by mail. */
  tell: boolean
  /** Who gets it; the owner, when left out. */
  who?: Who | undefined
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
    tell: z.boolean(),
    who: zWho.optional(),
  }),
  form: {
    title: { widget: 'mergeText', lines: 'one', most: TITLE_MOST },
    notes: { widget: 'mergeText', lines: 'many', most: NOTES_MOST },
    taskKind: { widget: 'pick', options: TASK_KINDS.map((value) => ({ value, label: TASK_KIND_WORDS[value] })) },
    due: { widget: 'amount', min: 0, max: 3650, units: SPAN_UNITS, note: 'Counted from the day the step runs; 0 is that day, or the first working day from it.' },
    priority: { widget: 'pick', options: PRIORITIES.map((value) => ({ value, label: `${value} priority` })) },
    again: { widget: 'toggle', on: 'even if the same is open', off: 'unless the same is open' },
    tell: { widget: 'toggle', on: 'told by mail', off: 'no mail' },
    who: { widget: 'who', owner: true },
  },
  start: { title: '', notes: '', taskKind: 'call', due: { count: 2, unit: 'workdays' }, priority: 'normal', again: false, tell: false, who: OWNER },
  sentence({ title, notes, taskKind, due, priority, again, tell, who = OWNER }, names) {
    return [
      say('task for '), word('who', sayWho(who, names.object, names.catalogue), 'somebody'), say(': '), word('taskKind', TASK_KIND_WORDS[taskKind], ''), say(', due '),
      word('due', due.count === 0 ? (due.unit === 'workdays' ? 'on the first working day' : 'the same day') : `in ${sayAmount(due.count, due.unit)}`, ''),
      say(', '), word('priority', `${priority} priority`, ''), say(', '), word('again', again ? 'even if the same is open' : 'unless the same is open', ''),
      say(', '), word('tell', tell ? 'told by mail' : 'no mail', ''),
      { break: true }, say('“'), ...mergeParts('title', title, word('title', null, 'what to do'), names), say('”'),
      { break: true }, ...mergeParts('notes', notes, { param: 'notes', text: 'add notes', soft: true }, names),
    ]
  },
  check({ title, notes, who = OWNER }, { catalogue, object }) {
    const problems: StepProblem[] = []
    const nobody = checkWho(who, catalogue)
    if (nobody) problems.push({ param: 'who', problem: nobody })
    if (title.trim() === '') problems.push({ param: 'title', problem: { code: 'missing', what: 'what to do' } })
    for (const problem of checkText(title, object, catalogue)) problems.push({ param: 'title', problem })
    for (const problem of checkText(notes, object, catalogue)) problems.push({ param: 'notes', problem })
    return problems
  },
  gives: () => [{ key: 'title', label: 'title of the task', type: 'text' }, { key: 'due', label: 'day the task is due', type: 'date' }, { key: 'who', label: 'who got the task', type: 'person' }],
  run({ title, notes, taskKind, due, priority, again, tell, who: wanted = OWNER }, context): Outcome {
    const { catalogue, moment, record, related } = context
    const open = again ? null : context.openTask()
    if (open !== null) return { go: 'skip', reason: { code: 'stillOpen', title: open } }
    const day = shiftDate(moment.today, due.count, due.unit, moment.calendar)
    const chosen = chooseWho(wanted, record.values, day, context)
    if ('none' in chosen) return { go: 'skip', reason: chosen.none }
    const who = chosen.person
    const fill = (text: string, most: number) => cut(fillText(text, record, related, catalogue).trim(), most)
    const ref = { object: record.object, id: record.id }
    const task = {
      ref, title: fill(title, TITLE_MOST).replace(/\s+/g, ' '), notes: fill(notes, NOTES_MOST), taskKind, priority, due: day, assigneeId: who.id,
    }
    const mail: Effect = { effect: 'send', message: { channel: 'mail', recipient: who.email, subject: task.title, body: `Due ${sayDate(day)}. ${task.notes}`.trim() } }
    return { go: 'on', effects: [{ effect: 'task', task }, ...(tell ? [mail] : []), ...(chosen.turn ? [{ effect: 'turn' as const }] : [])], gives: { title: task.title, due: day, who: who.id } }
  },
  examples: [
    {
      say: 'gives the owner a task',
      params: { title: 'Ring about {{deal.name}}', notes: '', taskKind: 'call', due: { count: 2, unit: 'workdays' }, priority: 'high', again: false, tell: true },
      record: { name: 'Two rooms', owner: 'rosa' },
      expect: {
        go: 'on',
        effects: [
          { effect: 'task', task: { ref: { object: 'deal', id: 1 }, title: 'Ring about Two rooms', notes: '', taskKind: 'call', priority: 'high', due: '2026-11-26', assigneeId: 'rosa' } },
          { effect: 'send', message: { channel: 'mail', recipient: 'rosa@larkmoor.example', subject: 'Ring about Two rooms', body: 'Due 26 Nov 2026.' } },
        ],
      },
    },
    {
      say: 'goes to the deputy while the owner is away',
      params: { title: 'Visit', notes: '{{deal.amount}}', taskKind: 'visit', due: { count: 0, unit: 'days' }, priority: 'low', again: true, tell: false },
      record: { owner: 'piet' },
      expect: {
        go: 'on',
        effects: [{ effect: 'task', task: { ref: { object: 'deal', id: 1 }, title: 'Visit', notes: '(no amount)', taskKind: 'visit', priority: 'low', due: '2026-11-24', assigneeId: 'rosa' } }],
      },
    },
    {
      say: 'has nobody to go to', params: { title: 'Visit', notes: '', taskKind: 'visit', due: { count: 0, unit: 'days' }, priority: 'low', again: false, tell: false },
      record: { owner: null }, expect: { go: 'skip', reason: { code: 'nobody', field: 'Owner' } },
    },
  ],
})
