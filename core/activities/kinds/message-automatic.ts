import { defineActivity } from '../kind'
import { CHANNEL } from '../shared'

export const messageAutomatic = defineActivity({
  kind: 'messageAutomatic',
  did: 'sent an automatic reply',
  does: 'sends an automatic reply',
  one: 'automatic reply',
  many: 'automatic replies',
  about: 'subject',
  data: [CHANNEL, { key: 'answer', label: 'reply', type: 'longText' }],
  example: { about: 'Out of office', data: { channel: 'mail', answer: 'I am back on Monday.' } },
})
