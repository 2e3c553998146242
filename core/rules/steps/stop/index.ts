import { OBJECTS } from '../../../records/kinds'
import { z } from 'zod'
import { checkText, fillText, mergeParts } from '../../merge'
import { defineStep } from '../../step'
import { say, word } from '../../../language/sentence'

/** Ends the run here: on whichever path it stands, nothing below it is done. */
export const stop = defineStep<'stop', { because: string }>({
  kind: 'stop',
  category: 'stop',
  does: 'stop here',
  alsoCalled: ['end', 'exit', 'finish', 'nothing more', 'quit'],
  objects: [...OBJECTS, 'none'],
  params: z.strictObject({ because: z.string().max(200) }),
  form: { because: { widget: 'mergeText', lines: 'one', most: 200 } },
  start: { because: '' },
  sentence: ({ because }, names) => [
    say('stop here, because '),
    ...mergeParts('because', because, word('because', null, 'a reason for the journal'), names),
  ],
  check: ({ because }, { object, catalogue }) =>
    because.trim() === ''
      ? [{ param: 'because', problem: { code: 'missing', what: 'reason' } }]
      : checkText(because, object, catalogue).map((problem) => ({ param: 'because', problem })),
  run: ({ because }, { record, related, catalogue }) => ({
    go: 'stop',
    because: fillText(because, record, related, catalogue),
  }),
  examples: [
    {
      say: 'ends the run with its reason',
      params: { because: 'not for us' },
      expect: { go: 'stop', because: 'not for us' },
    },
  ],
})
