import { defineActivity } from '../kind'

export const appointmentAttended = defineActivity({
  kind: 'appointmentAttended',
  did: 'came to an appointment',
  does: 'comes to an appointment',
  one: 'attended appointment',
  many: 'attended appointments',
  about: 'subject',
  data: [
    { key: 'appointment', label: 'number of the appointment', type: 'number' },
    { key: 'startMs', label: 'start', type: 'dateTime' },
    { key: 'endMs', label: 'end', type: 'dateTime' },
    { key: 'place', label: 'place', type: 'text' },
    { key: 'moved', label: 'moved before', type: 'yesNo' },
    { key: 'notes', label: 'notes', type: 'longText' },
  ],
  example: { about: 'Site visit', data: { startMs: 1_795_770_000_000, notes: 'Wants two units.' } },
})
