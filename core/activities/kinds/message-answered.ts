import { defineActivity } from '../kind'

export const message = defineActivity({
  kind: 'message',
  did: 'answered a message',
  does: 'answers a message',
  one: 'message answer',
  many: 'message answers',
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
    { key: 'answer', label: 'answer', type: 'longText' },
  ],
  example: { about: 'Your offer', data: { channel: 'mail', answer: 'Thank you, please call me.' } },
})
