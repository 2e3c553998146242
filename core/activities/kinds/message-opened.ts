import { defineActivity } from '../kind'
import { CHANNEL, REPORT_LABEL } from '../shared'

export const messageOpened = defineActivity({
  kind: 'messageOpened',
  did: 'opened a message',
  does: 'opens a message',
  one: 'opened message',
  many: 'opened messages',
  about: 'subject',
  data: [CHANNEL, REPORT_LABEL],
  example: { about: 'Your offer', data: { channel: 'mail' } },
})
