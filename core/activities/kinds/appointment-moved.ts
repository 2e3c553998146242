import { defineActivity } from '../kind'
import { APPOINTMENT_DATA } from '../shared'

export const appointmentMoved = defineActivity({
  kind: 'appointmentMoved',
  did: 'moved an appointment',
  does: 'moves an appointment',
  one: 'moved appointment',
  many: 'moved appointments',
  about: 'subject',
  data: [...APPOINTMENT_DATA, { key: 'wasStartMs', label: 'previous start', type: 'dateTime' }],
  example: { about: 'Site visit', data: { startMs: 1_795_856_400_000, wasStartMs: 1_795_770_000_000 } },
})
