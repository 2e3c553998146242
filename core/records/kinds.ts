import { article, NOUNS } from '../language/nouns'

/** The kinds of records that carry user-defined fields. The order is the order on screen. */
export const OBJECTS = ['deal', 'contact', 'company', 'appointment'] as const
/** A kind of records. */
export type RecordKind = (typeof OBJECTS)[number]

/**
 * What something is about: a record of one of these kinds, or none at all. The latter is of rules that go by the
 * calendar alone; one stand-in without any fields is what they run for.
 */
export type ObjectKind = RecordKind | 'none'

/** What a rule may be about. */
export const RULE_OBJECTS = [...OBJECTS, 'none'] as const

export const OBJECT_WORDS: {
  readonly [K in ObjectKind]: {
    readonly one: string
    readonly many: string
    /** For titles, tabs and headings. */ readonly One: string
    readonly Many: string
  }
} = {
  deal: { ...NOUNS.deal, One: 'Deal', Many: 'Deals' },
  contact: { ...NOUNS.contact, One: 'Contact', Many: 'Contacts' },
  company: { ...NOUNS.company, One: 'Company', Many: 'Companies' },
  appointment: { ...NOUNS.appointment, One: 'Appointment', Many: 'Appointments' },
  none: { one: 'no record', many: 'no records', One: 'No record', Many: 'No record' },
}

export interface RecordRef {
  readonly object: ObjectKind
  readonly id: number
}

export const sameRef = (a: RecordRef, b: RecordRef): boolean => a.object === b.object && a.id === b.id

/** "deal", "contact", "company". */
export const oneOf = (object: ObjectKind): string => OBJECT_WORDS[object].one

/** "a deal" */
export const aOne = (object: ObjectKind): string => article(oneOf(object))
