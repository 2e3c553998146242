import { defineActivity } from '../kind'

export const request = defineActivity({
  kind: 'request',
  did: 'sent a web request',
  does: 'sends a web request',
  one: 'web request',
  many: 'web requests',
  about: 'subject',
  data: [{ key: 'body', label: 'text', type: 'longText' }],
  example: { about: 'Brochure', data: { body: 'Please send it by post.' } },
})
