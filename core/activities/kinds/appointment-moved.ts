import { defineActivity } from '../kind'

export const appointmentMoved = defineActivity({
  kind: 'appointmentMoved',
  did: 'moved an appointment',
  does: 'moves an appointment',
  one: 'moved appointment',
  many: 'moved appointments',
  about: 'subject',
  data: [
    { key: 'appointment', label: 'number of the appointment', type: 'number' },
    { key: 'startMs', label: 'start', type: 'dateTime' },
    { key: 'endMs', label: 'end', type: 'dateTime' },
    { key: 'place', label: 'place', type: 'text' },
    { key: 'wasStartMs', label: 'previous start', type: 'dateTime' },
  ],
  example: { about: 'Site visit', data: { startMs: 1_795_856_400_000, wasStartMs: 1_795_770_000_000 } },
})
