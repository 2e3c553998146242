import { defineActivity } from '../kind'
import { CHANNEL, REPORT_LABEL } from '../shared'

export const messageSent = defineActivity({
  kind: 'messageSent',
  did: 'was sent a message',
  does: 'is sent a message',
  one: 'sent message',
  many: 'sent messages',
  about: 'subject',
  data: [CHANNEL, REPORT_LABEL],
  example: { about: 'Your offer', data: { channel: 'mail' } },
})
