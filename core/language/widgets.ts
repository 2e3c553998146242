import type { FieldTypeName } from './field-types'

/** How one part of a trigger, condition or step is edited. Data only: the application maps each name to a component. */
export type Widget = Shape & {
  /** What the part is called in the panel that edits it, where its usual label would mislead. */
  readonly label?: string
}

type Shape =
  /** A field of the rule's object; `writable` leaves out what rules cannot write. */
  | {
      readonly widget: 'field'
      readonly writable: boolean
      /** Only fields of these types. */ readonly types?: readonly FieldTypeName[]
      /** Only those that a scorecard keeps. */ readonly made?: 'score'
      /** The param that names the kind of record, when it is not the rule's own. */ readonly object?: string
      /** What it means to choose none, where that can be. */ readonly none?: string
    }
  /** A kind of record that the rule's own can be linked to. */
  | { readonly widget: 'linkable' }
  /** Texts, typed or pasted one a line; `of` says what they are. */
  | { readonly widget: 'lines'; readonly of: string }
  /** A value that fits the field named by the param `of`. */
  | { readonly widget: 'value'; readonly of: string }
  | { readonly widget: 'values'; readonly of: string }
  /** A value, another field's value, today, or empty. */
  | { readonly widget: 'source'; readonly of: string }
  | { readonly widget: 'stage' }
  /** A saved filter of the rule's object. */
  | { readonly widget: 'segment' }
  /** Something that people do, in the form of its words that fits there. */
  | { readonly widget: 'activity'; readonly form: 'does' | 'one' }
  /** A band of the score named by the param `of`. */
  | { readonly widget: 'band'; readonly of: string }
  /** Somebody who works here. */
  | { readonly widget: 'person' }
  /** Who a message comes from. */
  | { readonly widget: 'sender' }
  /** A stored text for the channel that the param names; none for a text of its own. */
  | { readonly widget: 'template'; readonly channel: string }
  /** A field of contacts with a phone number. */
  | { readonly widget: 'phoneField' }
  /** A service outside. */
  | { readonly widget: 'connection' }
  /** What is read out of an answer, each with its path. */
  | { readonly widget: 'readings' }
  /** Some of those who work here; `none` is what it means that nobody is. */
  | { readonly widget: 'people'; readonly none: string }
  | {
      readonly widget: 'pick'
      readonly options: readonly {
        readonly value: string
        readonly label: string
        readonly hint?: string
        /** Offered only where there are any. */ readonly needs?: 'steps'
      }[]
    }
  /** A step that is done before. */
  | { readonly widget: 'stepBefore' }
  | { readonly widget: 'toggle'; readonly on: string; readonly off: string }
  | {
      readonly widget: 'amount'
      readonly min: number
      readonly max: number
      readonly units: readonly string[]
      /** What people should know about its ends. */ readonly note: string
    }
  /** Another field to compare with, of the same record or of its main linked ones. */
  | { readonly widget: 'otherField' }
  /** A time of day, in minutes from midnight; `own` offers to leave it to what it is counted from. */
  | { readonly widget: 'minute'; readonly own: string | null }
  /** Some of several, none of them meaning any. */
  | {
      readonly widget: 'several'
      readonly options: readonly { readonly value: number; readonly label: string }[]
      readonly none: string
    }
  /** What comes again and again. */
  | { readonly widget: 'recurrence' }
  /** A later moment. */
  | {
      readonly widget: 'when'
      /** What it means to leave it open; `null` where it must be said. */ readonly none: string | null
      /** Only the day counts, and no time of it. */ readonly dateOnly?: true
      /** Only some of the ways to say it. */ readonly ways?: readonly ('after' | 'field' | 'hours')[]
    }
  /** A whole number. */
  | { readonly widget: 'count'; readonly min: number; readonly max: number }
  /** A few words, typed. */
  | { readonly widget: 'words'; readonly most: number; readonly label: string }
  /** Some fields of the record. */
  | { readonly widget: 'fields' }
  /** Questions to whoever starts the rule. */
  | { readonly widget: 'questions' }
  /** Who gets something: the owner too, where there is one. */
  | {
      readonly widget: 'who'
      readonly owner: boolean
      /** Whether it may be the queue of a team. */ readonly queue?: boolean
      /** Whether it may be all of a team. */ readonly everyone?: boolean
    }
  /** A formula that is true or false. */
  | { readonly widget: 'formula' }
  /** A decision table. */
  | { readonly widget: 'table' }
  | { readonly widget: 'mergeText'; readonly lines: 'one' | 'many'; readonly most: number }
  /** JSON with merge fields in its texts. */
  | { readonly widget: 'json'; readonly most: number }

/** A form has exactly one widget for each param; leaving one out does not compile. */
export type Form<P> = { readonly [F in keyof P]-?: Widget }
