import { defineActivity } from '../kind'

export const visit = defineActivity({
  kind: 'visit',
  did: 'visited a page',
  does: 'visits a page',
  one: 'page visit',
  many: 'page visits',
  about: 'address',
  data: [
    { key: 'title', label: 'title of the page', type: 'text' },
    { key: 'from', label: 'page before it', type: 'text' },
    { key: 'visitNumber', label: 'number of the visit', type: 'number' },
  ],
  example: { about: '/prices/buildings', data: { title: 'Prices of buildings', from: '/', visitNumber: 3 } },
})
