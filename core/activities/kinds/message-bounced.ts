import { defineActivity } from '../kind'

export const messageBounced = defineActivity({
  kind: 'messageBounced',
  did: 'could not be reached by a message',
  does: 'cannot be reached by a message',
  one: 'bounced message',
  many: 'bounced messages',
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
    { key: 'reason', label: 'reason', type: 'text' },
  ],
  example: { about: 'Your offer', data: { channel: 'mail', reason: 'No such mailbox' } },
})
