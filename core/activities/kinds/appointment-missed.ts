import { defineActivity } from '../kind'

export const appointmentMissed = defineActivity({
  kind: 'appointmentMissed',
  did: 'missed an appointment',
  does: 'misses an appointment',
  one: 'missed appointment',
  many: 'missed appointments',
  about: 'subject',
  data: [
    { key: 'appointment', label: 'number of the appointment', type: 'number' },
    { key: 'startMs', label: 'start', type: 'dateTime' },
    { key: 'endMs', label: 'end', type: 'dateTime' },
    { key: 'place', label: 'place', type: 'text' },
    { key: 'moved', label: 'moved before', type: 'yesNo' },
    { key: 'missedBefore', label: 'number missed before', type: 'number' },
  ],
  example: { about: 'Site visit', data: { startMs: 1_795_770_000_000, moved: true, missedBefore: 1 } },
})
