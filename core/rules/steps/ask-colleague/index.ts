import { z } from 'zod'
import { say } from '../../../language/sentence'
import { answersIn, outcomeIn } from '../../../signals/task'
import {
  answersOf,
  checkQuestions,
  FACTS_MOST,
  factsOf,
  sayFacts,
  sayQuestions,
  zQuestions,
  type Question,
} from '../../questions'
import { defineAwait, ownTasks } from '../awaiting'
import {
  ASKED_FORM,
  ASKED_SHAPE,
  ASKED_START,
  askedOf,
  askedWords,
  checkAsked,
  type AskedParams,
} from '../create-task/asked'

interface Params extends AskedParams {
  /** Fields of the record that are shown beside the questions. */
  facts: readonly string[]
  questions: readonly Question[]
}

const START: Params = {
  ...ASKED_START,
  facts: [],
  questions: [{ key: 'answer', label: 'What do you say?', type: 'text', choices: [], required: true }],
}

/** Asks a colleague something in the middle of a rule, and lets time pass until the answer is there. */
export const askColleague = defineAwait<'askColleague', Params>({
  kind: 'askColleague',
  does: 'ask a colleague and wait for the answer',
  category: 'people',
  alsoCalled: ['question', 'form', 'input', 'decision', 'choose', 'person'],
  params: z.strictObject({
    ...ASKED_SHAPE,
    facts: z.array(z.string().max(100)).max(FACTS_MOST),
    questions: zQuestions.min(1),
  }),
  form: { ...ASKED_FORM, facts: { widget: 'fields' }, questions: { widget: 'questions' } },
  start: START,
  opening: (params, names) =>
    askedWords(
      params,
      'ask ',
      [
        say(' '),
        sayQuestions(params.questions),
        say(params.facts.length > 0 ? ', showing its ' : ', '),
        sayFacts(params.facts, names),
      ],
      names,
    ),
  ends: ['if it is answered', 'if no one answers in time'],
  sentence: () => [say('it is answered')],
  check: (params, names) => [...checkAsked(params, names), ...checkQuestions(params.facts, params.questions, names)],
  first: (params, context) =>
    askedOf(
      params,
      'todo',
      {
        about: 'questions',
        facts: factsOf(params.facts, context.record.object, context.record.values, context.catalogue),
        questions: params.questions,
      },
      context,
    ),
  signals: (_params, _names, wrote) => ownTasks(wrote),
  comes: () => true,
  content: {
    gives: ({ questions }) => answersOf(questions),
    of: ({ changes }) => ({ gives: answersIn(changes), say: outcomeIn(changes) || 'answered' }),
  },
  examples: [
    {
      say: 'asks the owner, and shows what it is about',
      params: {
        ...START,
        title: 'Which lorry for {{deal.name}}?',
        facts: ['amount'],
        questions: [
          { key: 'lorry', label: 'Which lorry?', type: 'choice', choices: ['Small', 'Large'], required: true },
        ],
        most: { count: 2, unit: 'workdays' },
        recheck: true,
      },
      record: { name: 'Two rooms', owner: 'rosa', amount: 1200 },
      expect: {
        go: 'wait',
        dueMs: Date.UTC(2026, 10, 26, 9, 12),
        effects: [
          {
            effect: 'task',
            task: {
              ref: { object: 'deal', id: 1 },
              title: 'Which lorry for Two rooms?',
              notes: '',
              taskKind: 'todo',
              priority: 'normal',
              due: '2026-11-25',
              assigneeId: 'rosa',
              queue: null,
              remindAt: null,
              asks: {
                about: 'questions',
                facts: [{ label: 'Amount', value: '€1,200' }],
                questions: [
                  { key: 'lorry', label: 'Which lorry?', type: 'choice', choices: ['Small', 'Large'], required: true },
                ],
              },
            },
          },
        ],
      },
    },
  ],
})
