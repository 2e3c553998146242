import { defineActivity } from '../kind'

export const messageOpened = defineActivity({
  kind: 'messageOpened',
  did: 'opened a message',
  does: 'opens a message',
  one: 'opened message',
  many: 'opened messages',
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
