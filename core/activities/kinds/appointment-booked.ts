import { defineActivity } from '../kind'

export const appointment = defineActivity({
  kind: 'appointment',
  did: 'booked an appointment',
  does: 'books an appointment',
  one: 'booked appointment',
  many: 'booked appointments',
  about: 'subject',
  data: [
    { key: 'appointment', label: 'number of the appointment', type: 'number' },
    { key: 'startMs', label: 'start', type: 'dateTime' },
    { key: 'endMs', label: 'end', type: 'dateTime' },
    { key: 'place', label: 'place', type: 'text' },
  ],
  example: {
    about: 'Site visit',
    data: { startMs: 1_795_770_000_000, endMs: 1_795_773_600_000, place: 'Larkmoor yard' },
  },
})
