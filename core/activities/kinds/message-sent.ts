import { defineActivity } from '../kind'
import { CHANNEL } from '../shared'

export const messageSent = defineActivity({
  kind: 'messageSent',
  did: 'was sent a message',
  does: 'is sent a message',
  one: 'sent message',
  many: 'sent messages',
  about: 'subject',
  data: [CHANNEL],
  example: { about: 'Your offer', data: { channel: 'mail' } },
})
