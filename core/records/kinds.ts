import { article, NOUNS } from '../language/nouns'

/** The kinds of records that carry user-defined fields. The order is the order on screen. */
export const OBJECTS = ['deal', 'contact', 'company'] as const
export type ObjectKind = (typeof OBJECTS)[number]

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
