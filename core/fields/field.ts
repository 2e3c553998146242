import type { ObjectKind } from '../records/kinds'
import type { Making } from '../derived/making'
import type { FieldTypeName } from '../language/field-types'

export interface Choice {
  /** Permanent; what records and rules hold. */
  readonly id: string
  readonly label: string
}

/** A typed slot of a record. `id` and `key` are permanent; labels may change at any time. */
export interface Field {
  readonly id: number
  readonly object: ObjectKind
  /** How rule documents and the API name it. */
  readonly key: string
  readonly label: string
  /** How sentences call it, as in “its … is empty”; the label in lower case where left out or `null`. */
  readonly phrase?: string | null
  readonly type: FieldTypeName
  readonly description: string
  /** Says what keeps the field when nobody may write it; `null` when people and rules may. */
  readonly keptBy: string | null
  readonly required: boolean
  /** For choice fields, in the order of the lists; otherwise empty. */
  readonly choices: readonly Choice[]
  /** Choices that were taken out, for telling what happened. */
  readonly gone?: readonly Choice[]
  /** For currency fields: the key of the field that holds the ISO 4217 code, or `null` for the workspace's. */
  readonly currencyKey: string | null
  /** For texts: the synonym set by which spellings count as one value, or `null`. */
  readonly synonyms: number | null
  /** How its value comes about, where it is worked out; otherwise left out or `null`. */
  readonly made?: Making | null
}

/** Whether a field is one that people see: what a segment keeps is looked at as the segment. */
export const isShown = ({ made }: Pick<Field, 'made'>): boolean => made?.by !== 'segment'

/** Spellings that count as one value. Each group's first is the one that the others count as. */
export interface SynonymSet {
  readonly id: number
  readonly name: string
  readonly groups: readonly (readonly string[])[]
}

export interface Stage {
  readonly id: string
  readonly pipelineId: string
  readonly name: string
  readonly position: number
  readonly outcome: 'open' | 'won' | 'lost'
  /** How likely a deal in it is to be won, in percent; `null` where nobody has said. */
  readonly probability: number | null
}

export interface Pipeline {
  readonly id: string
  readonly name: string
  readonly stages: readonly Stage[]
}

export const ROLES = ['specialist', 'lead', 'owner', 'viewer'] as const
/** What a role is called; the owner of a record is another thing, so who has that role is shown as a seller. */
export const ROLE_WORDS = { specialist: 'Specialist', lead: 'Sales lead', owner: 'Seller', viewer: 'Viewer' } as const
export type Role = (typeof ROLES)[number]

export interface Person {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly role: Role
  readonly team: string
  readonly title: string
  /** First and last day away, both included; `null` when not away. */
  readonly awayFrom: string | null
  readonly awayTo: string | null
  readonly deputyId: string | null
  /** False once the person has left. */
  readonly active: boolean
  /** IANA name of the zone the person lives by; `null` for the workspace's. */
  readonly zone: string | null
}

/** When people work. */
export interface Hours {
  /** ISO weekday numbers (1 Monday … 7 Sunday) on which the firm works. */
  readonly workdays: readonly number[]
  /** Office hours, in minutes from midnight. */
  readonly opensAt: number
  readonly closesAt: number
  readonly holidays: readonly { readonly date: string; readonly name: string }[]
}

export interface TeamHours extends Hours {
  readonly team: string
}

/** What is said of a workspace as a whole; its hours are those of every team that has none of its own. */
export interface WorkspaceFacts extends Hours {
  readonly name: string
  readonly zone: string
  readonly locale: string
  readonly currency: string
  readonly demo: boolean
  readonly teams?: readonly TeamHours[]
}
