import type { ObjectKind } from '../records/kinds'
import type { Choice, Field } from './field'
import type { FieldTypeName } from '../language/field-types'

/** A field before it is stored: it has no id yet. */
export type FieldDefinition = Omit<Field, 'id'> & { readonly indexed: boolean; readonly position: number }

/** What is said of a field when it is defined by hand; the rest has a plain default. */
export interface GivenField {
  readonly label: string
  readonly type: FieldTypeName
  readonly description?: string
  readonly keptBy?: string
  readonly required?: boolean
  /** Names, whose ids are made of them; or both. */
  readonly choices?: readonly (string | Choice)[]
  readonly currencyKey?: string
  readonly indexed?: boolean
  readonly synonyms?: number
}

/** An id made of a label: lower case, with dashes. */
export const slug = (label: string): string =>
  label
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replace(/[^a-z\d]+/g, '-')
    .replace(/^-|-$/g, '')
const toChoice = (given: string | Choice): Choice =>
  typeof given === 'string' ? { id: slug(given), label: given } : given

/** Fields of a kind of record by key, in the order given. */
export function defineFields(
  object: ObjectKind,
  fields: { readonly [key: string]: GivenField },
): readonly FieldDefinition[] {
  return Object.entries(fields).map(([key, given], position) => ({
    object,
    key,
    label: given.label,
    type: given.type,
    description: given.description ?? '',
    keptBy: given.keptBy ?? null,
    required: given.required ?? false,
    choices: (given.choices ?? []).map(toChoice),
    currencyKey: given.currencyKey ?? null,
    indexed: given.indexed ?? false,
    synonyms: given.synonyms ?? null,
    position,
  }))
}

/** What every appointment has: calendars, bookings and activities go by these. */
const APPOINTMENT_KEYS = {
  start: { label: 'Start', type: 'dateTime', required: true, indexed: true },
  end: { label: 'End', type: 'dateTime', indexed: true },
  status: {
    label: 'Status',
    type: 'choice',
    indexed: true,
    choices: ['Booked', 'Attended', 'Missed', 'Cancelled'],
    description: 'Nothing counts as booked',
  },
  place: { label: 'Place', type: 'text', description: 'Address, or link of the call' },
  notes: { label: 'Notes', type: 'longText' },
} as const satisfies { readonly [key: string]: GivenField }

/** Fields that the system itself needs or keeps, the same in every workspace. */
export const KEPT = {
  name: { label: 'Name', type: 'text', required: true, indexed: true },
  owner: { label: 'Owner', type: 'person', indexed: true, description: 'Person responsible for the record' },
  stage: { label: 'Stage', type: 'stage', required: true, indexed: true },
  pipeline: { label: 'Pipeline', type: 'pipeline', keptBy: 'set from the stage', indexed: true },
  stageSince: { label: 'Stage start date', type: 'dateTime', keptBy: 'set when the stage changes' },
  createdAt: { label: 'Creation date', type: 'dateTime', keptBy: 'set when the record is created' },
} as const satisfies Readonly<Record<string, GivenField>>

/** The fields of appointments, the same in every workspace to begin with. */
export const APPOINTMENT_FIELDS = defineFields('appointment', {
  name: KEPT.name,
  ...APPOINTMENT_KEYS,
  owner: KEPT.owner,
  createdAt: KEPT.createdAt,
})
