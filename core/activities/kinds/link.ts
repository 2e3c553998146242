import { defineActivity } from '../kind'

export const link = defineActivity({
  kind: 'link',
  did: 'followed a link',
  does: 'follows a link',
  one: 'followed link',
  many: 'followed links',
  about: 'address',
  data: [{ key: 'message', label: 'message', type: 'text' }],
  example: { about: '/prices', data: { message: 'Your offer' } },
})
