import type { FieldTypeName } from '../language/field-types'
import type { Values } from '../language/value'

/** One value of an activity’s data, typed like a field of a record. */
export interface ActivityValue {
  readonly key: string
  /** As it stands behind “the”: “the address”. */
  readonly label: string
  readonly type: Extract<FieldTypeName, 'text' | 'longText' | 'number' | 'yesNo' | 'choice' | 'dateTime'>
  /** For choices: what is kept, and what people read. */
  readonly choices?: readonly { readonly id: string; readonly label: string }[]
}

/** One kind of thing that people do: its words, its data and an example. A new kind is one more file in `kinds/`. */
export interface ActivityKind<K extends string = string> {
  readonly kind: K
  /** In a timeline: “visited a page”. */
  readonly did: string
  /** In a rule: “visits a page”. */
  readonly does: string
  /** Where one of several is spoken of: “page visit”. */
  readonly one: string
  readonly many: string
  /** What its one line of text is, the page or the subject. */
  readonly about: string
  /** What it may tell beside that. */
  readonly data: readonly ActivityValue[]
  readonly example: { readonly about: string; readonly data: Values }
}

export const defineActivity = <const K extends string>(kind: ActivityKind<K>): ActivityKind<K> => Object.freeze(kind)
