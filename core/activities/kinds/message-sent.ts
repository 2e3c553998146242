import { defineActivity } from '../kind'

export const messageSent = defineActivity({
  kind: 'messageSent',
  did: 'was sent a message',
  does: 'is sent a message',
  one: 'sent message',
  many: 'sent messages',
  about: 'subject',
  data: [
    {
      key: 'channel',
      label: 'channel',
      type: 'choice',
      choices: [
        { id: 'mail', label: 'mail' },
        { id: 'text', label: 'text message' },
      ],
    },
  ],
  example: { about: 'Your offer', data: { channel: 'mail' } },
})
