import { defineActivity } from '../kind'
import { APPOINTMENT_DATA } from '../shared'

export const appointmentCancelled = defineActivity({
  kind: 'appointmentCancelled',
  did: 'cancelled an appointment',
  does: 'cancels an appointment',
  one: 'cancelled appointment',
  many: 'cancelled appointments',
  about: 'subject',
  data: [...APPOINTMENT_DATA],
  example: { about: 'Site visit', data: { startMs: 1_795_770_000_000 } },
})
