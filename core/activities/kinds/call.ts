import { defineActivity } from '../kind'

export const call = defineActivity({
  kind: 'call',
  did: 'had a call',
  does: 'has a call',
  one: 'call',
  many: 'calls',
  about: 'outcome',
  data: [
    {
      key: 'direction',
      label: 'direction',
      type: 'choice',
      choices: [
        { id: 'in', label: 'incoming' },
        { id: 'out', label: 'outgoing' },
      ],
    },
    {
      key: 'ended',
      label: 'way it ended',
      type: 'choice',
      choices: [
        { id: 'talked', label: 'talked' },
        { id: 'noAnswer', label: 'no answer' },
        { id: 'busy', label: 'busy' },
        { id: 'wrongNumber', label: 'wrong number' },
      ],
    },
    { key: 'minutes', label: 'length in minutes', type: 'number' },
    { key: 'notes', label: 'notes', type: 'longText' },
  ],
  example: {
    about: 'wants an offer',
    data: { direction: 'out', ended: 'talked', minutes: 7, notes: 'Two units from May.' },
  },
})
