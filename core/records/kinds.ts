/** The kinds of records that carry user-defined fields. The order is the order on screen. */
export const OBJECTS = ['deal', 'contact', 'company'] as const
export type ObjectKind = (typeof OBJECTS)[number]

export const OBJECT_WORDS: { readonly [K in ObjectKind]: { readonly one: string; readonly many: string } } = {
  deal: { one: 'deal', many: 'deals' },
  contact: { one: 'contact', many: 'contacts' },
  company: { one: 'company', many: 'companies' },
}

export interface RecordRef {
  readonly object: ObjectKind
  readonly id: number
}

export const sameRef = (a: RecordRef, b: RecordRef): boolean => a.object === b.object && a.id === b.id

/** "deal", "contact", "company". */
export const oneOf = (object: ObjectKind): string => OBJECT_WORDS[object].one

/** "a deal"; every kind of record begins with a consonant. */
export const aOne = (object: ObjectKind): string => `a ${oneOf(object)}`
