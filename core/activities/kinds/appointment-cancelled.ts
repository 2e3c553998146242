import { defineActivity } from '../kind'

export const appointmentCancelled = defineActivity({
  kind: 'appointmentCancelled',
  did: 'cancelled an appointment',
  does: 'cancels an appointment',
  one: 'cancelled appointment',
  many: 'cancelled appointments',
  about: 'subject',
  data: [
    { key: 'appointment', label: 'number of the appointment', type: 'number' },
    { key: 'startMs', label: 'start', type: 'dateTime' },
    { key: 'endMs', label: 'end', type: 'dateTime' },
    { key: 'place', label: 'place', type: 'text' },
  ],
  example: { about: 'Site visit', data: { startMs: 1_795_770_000_000 } },
})
