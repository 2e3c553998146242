import { z } from 'zod'
import { OBJECTS, aOne } from '../../../records/kinds'
import { BY_HAND } from '../../../signals/hand'
import {
  answersOf,
  checkQuestions,
  FACTS_MOST,
  sayFacts,
  sayQuestions,
  zQuestions,
  type Question,
} from '../../questions'
import { defineTrigger } from '../../trigger'
import { say, word } from '../../../language/sentence'

export interface ByHandParams {
  /** The words on the button. */
  readonly button: string
  /** Fields of the record that are shown beside the questions. */
  readonly facts: readonly string[]
  readonly questions: readonly Question[]
}

/** Somebody presses a button: on a record, or for all records of a selection. */
export const byHand = defineTrigger<'byHand', ByHandParams>({
  kind: 'byHand',
  does: 'someone runs it by hand',
  hint: 'Adds a button to records and lists. It can show facts and ask questions; steps can use the answers.',
  objects: OBJECTS,
  params: z.strictObject({
    button: z.string().trim().max(60),
    facts: z.array(z.string().max(100)).max(FACTS_MOST),
    questions: zQuestions,
  }),
  form: {
    button: { widget: 'words', most: 60, label: 'Button label' },
    facts: { widget: 'fields' },
    questions: { widget: 'questions' },
  },
  start: { button: '', facts: [], questions: [] },
  sentence({ button, facts, questions }, { catalogue, object }) {
    return [
      say('someone presses “'),
      word('button', button, 'button label'),
      say(`” on ${aOne(object)}`),
      say(facts.length > 0 ? ', who sees its ' : ', '),
      sayFacts(facts, { catalogue, object }),
      say(questions.length > 0 ? ', and is asked ' : ', '),
      sayQuestions(questions),
    ]
  },
  check({ button, facts, questions }, { catalogue, object }) {
    return [
      ...(button === '' ? [{ param: 'button', problem: { code: 'missing' as const, what: 'button' as const } }] : []),
      ...checkQuestions(facts, questions, { catalogue, object }),
    ]
  },
  listen: () => [BY_HAND],
  compile: () => (event) => event.kind === 'started',
  gives: ({ questions }) => answersOf(questions),
  because: ({ button }) => `“${button}” was pressed`,
  examples: [
    {
      say: 'a press',
      object: 'deal',
      params: { button: 'Hand over', facts: [], questions: [] },
      event: { kind: 'started', changes: [] },
      starts: true,
    },
    {
      say: 'a change',
      object: 'deal',
      params: {
        button: 'Hand over',
        facts: ['amount'],
        questions: [{ key: 'why', label: 'Why?', type: 'text', choices: [], required: true }],
      },
      event: { kind: 'changed', changes: [{ field: 'amount', old: 1, new: 2 }] },
      starts: false,
    },
  ],
})
