import { defineActivity } from '../kind'
import { APPOINTMENT_DATA } from '../shared'

export const appointmentAttended = defineActivity({
  kind: 'appointmentAttended',
  did: 'came to an appointment',
  does: 'comes to an appointment',
  one: 'attended appointment',
  many: 'attended appointments',
  about: 'subject',
  data: [
    ...APPOINTMENT_DATA,
    { key: 'moved', label: 'moved before', type: 'yesNo' },
    { key: 'notes', label: 'notes', type: 'longText' },
  ],
  example: { about: 'Site visit', data: { startMs: 1_795_770_000_000, notes: 'Wants two units.' } },
})
