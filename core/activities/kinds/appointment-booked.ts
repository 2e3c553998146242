import { defineActivity } from '../kind'
import { APPOINTMENT_DATA } from '../shared'

export const appointment = defineActivity({
  kind: 'appointment',
  did: 'booked an appointment',
  does: 'books an appointment',
  one: 'booked appointment',
  many: 'booked appointments',
  about: 'subject',
  data: [...APPOINTMENT_DATA],
  example: {
    about: 'Site visit',
    data: { startMs: 1_795_770_000_000, endMs: 1_795_773_600_000, place: 'Larkmoor yard' },
  },
})
