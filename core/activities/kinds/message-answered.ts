import { defineActivity } from '../kind'
import { CHANNEL } from '../shared'

export const message = defineActivity({
  kind: 'message',
  did: 'answered a message',
  does: 'answers a message',
  one: 'message answer',
  many: 'message answers',
  about: 'subject',
  data: [CHANNEL, { key: 'answer', label: 'answer', type: 'longText' }],
  example: { about: 'Your offer', data: { channel: 'mail', answer: 'Thank you, please call me.' } },
})
