import { CALL_ENDS, CALL_OUTCOMES } from '../../asks/call'
import { defineActivity } from '../kind'

/** As inside a sentence. */
const inside = (list: readonly { readonly id: string; readonly label: string }[]) =>
  list.map(({ id, label }) => ({ id, label: label.charAt(0).toLowerCase() + label.slice(1) }))

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
    { key: 'outcome', label: 'outcome', type: 'choice', choices: inside(CALL_OUTCOMES) },
    { key: 'ended', label: 'way it ended', type: 'choice', choices: inside(CALL_ENDS) },
    { key: 'minutes', label: 'length in minutes', type: 'number' },
    { key: 'notes', label: 'notes', type: 'longText' },
  ],
  example: {
    about: 'wants an offer',
    data: { direction: 'out', outcome: 'finished', ended: 'interested', minutes: 7, notes: 'Two units from May.' },
  },
})
