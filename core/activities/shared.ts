import type { ActivityValue } from './kind'

/** What every kind about an appointment tells. */
export const APPOINTMENT_DATA: readonly ActivityValue[] = [
  { key: 'appointment', label: 'number of the appointment', type: 'number' },
  { key: 'startMs', label: 'start', type: 'dateTime' },
  { key: 'endMs', label: 'end', type: 'dateTime' },
  { key: 'place', label: 'place', type: 'text' },
]

/** By what a message went. */
export const CHANNEL: ActivityValue = {
  key: 'channel',
  label: 'channel',
  type: 'choice',
  choices: [
    { id: 'mail', label: 'mail' },
    { id: 'text', label: 'text message' },
  ],
}

/** By which reports tell messages apart. */
export const REPORT_LABEL: ActivityValue = { key: 'label', label: 'report label', type: 'text' }
