import { bad, good } from '../../language/problems'
import { dateAt, isDate, readDate, readInstant } from '../../time/dates'
import { defineFieldType } from '../kind'
import { sayDate, sayInstant } from '../../time/say'

export const date = defineFieldType({
  type: 'date',
  word: 'date',
  storage: 'text',
  widget: 'date',
  read: (raw, { style }) => {
    if (raw.trim() === '') return good(null)
    const value = readDate(raw, style.dateOrder)
    return value === null ? bad({ code: 'notADate', raw }) : good(value)
  },
  accept: (value) => {
    if (value === null) return good(null)
    if (typeof value !== 'string') return bad({ code: 'wrongType', type: 'date' })
    return isDate(value) ? good(value) : bad({ code: 'notADate', raw: value })
  },
  write: (value) => sayDate(String(value)),
  key: (value) => String(value),
  ordered: true,
  examples: [
    ['2026-11-24', '2026-11-24'],
    ['24.11.2026', '2026-11-24'],
    ['24/11/2026', '2026-11-24'],
    ['24 Nov 2026', '2026-11-24'],
    ['November 24, 2026', '2026-11-24'],
    ['', null],
  ],
})

export const dateTime = defineFieldType({
  type: 'dateTime',
  word: 'date and time',
  storage: 'integer',
  widget: 'dateTime',
  read: (raw, { style, catalogue }) => {
    if (raw.trim() === '') return good(null)
    const value = readInstant(raw, catalogue.workspace.zone, style.dateOrder)
    return value === null ? bad({ code: 'notAnInstant', raw }) : good(value)
  },
  accept: (value) => {
    if (value === null) return good(null)
    return typeof value === 'number' && Number.isSafeInteger(value)
      ? good(value)
      : bad({ code: 'wrongType', type: 'date and time' })
  },
  write: (value, { catalogue }) => sayInstant(Number(value), catalogue.workspace.zone),
  key: (value) => Number(value),
  ordered: true,
  examples: [
    ['2026-01-05 09:30', Date.UTC(2026, 0, 5, 9, 30)],
    ['2026-01-05T09:30:00Z', Date.UTC(2026, 0, 5, 9, 30)],
  ],
})

/** The day an instant or a date falls on in the workspace's zone. */
export const dayOf = (value: string | number, zone: string): string =>
  typeof value === 'number' ? dateAt(value, zone) : value
