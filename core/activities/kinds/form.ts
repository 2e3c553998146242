import { defineActivity } from '../kind'

export const form = defineActivity({
  kind: 'form',
  did: 'sent a form',
  does: 'sends a form',
  one: 'sent form',
  many: 'sent forms',
  about: 'form',
  data: [
    { key: 'answers', label: 'answers', type: 'longText' },
    { key: 'page', label: 'page', type: 'text' },
  ],
  example: { about: 'Site visit', data: { answers: 'Size: 40 m²', page: '/visit' } },
})
