import { defineActivity } from '../kind'
import { APPOINTMENT_DATA } from '../shared'

export const appointmentMissed = defineActivity({
  kind: 'appointmentMissed',
  did: 'missed an appointment',
  does: 'misses an appointment',
  one: 'missed appointment',
  many: 'missed appointments',
  about: 'subject',
  data: [
    ...APPOINTMENT_DATA,
    { key: 'moved', label: 'moved before', type: 'yesNo' },
    { key: 'missedBefore', label: 'number missed before', type: 'number' },
  ],
  example: { about: 'Site visit', data: { startMs: 1_795_770_000_000, moved: true, missedBefore: 1 } },
})
