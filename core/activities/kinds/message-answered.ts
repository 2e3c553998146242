import { ANSWER_KIND_CHOICES } from '../../messages/answer-kind'
import { defineActivity } from '../kind'
import { CHANNEL, REPORT_LABEL } from '../shared'

export const message = defineActivity({
  kind: 'message',
  did: 'answered a message',
  does: 'answers a message',
  one: 'message answer',
  many: 'message answers',
  about: 'subject',
  data: [
    CHANNEL,
    { key: 'answer', label: 'answer', type: 'longText' },
    { key: 'kind', label: 'kind of answer', type: 'choice', choices: ANSWER_KIND_CHOICES },
    REPORT_LABEL,
  ],
  example: { about: 'Your offer', data: { channel: 'mail', answer: 'Thank you, please call me.', kind: 'positive' } },
})
