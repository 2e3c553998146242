import { defineActivity } from '../kind'
import { CHANNEL } from '../shared'

export const messageBounced = defineActivity({
  kind: 'messageBounced',
  did: 'could not be reached by a message',
  does: 'cannot be reached by a message',
  one: 'bounced message',
  many: 'bounced messages',
  about: 'subject',
  data: [CHANNEL, { key: 'reason', label: 'reason', type: 'text' }],
  example: { about: 'Your offer', data: { channel: 'mail', reason: 'No such mailbox' } },
})
