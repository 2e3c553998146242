import { defineActivity } from '../kind'
import { CHANNEL } from '../shared'

export const messageOpened = defineActivity({
  kind: 'messageOpened',
  did: 'opened a message',
  does: 'opens a message',
  one: 'opened message',
  many: 'opened messages',
  about: 'subject',
  data: [CHANNEL],
  example: { about: 'Your offer', data: { channel: 'mail' } },
})
