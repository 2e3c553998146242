import type { Directory } from './directory'
import type { Field } from './field'
import type { Result } from '../language/problems'
import type { Value } from '../language/value'

/** How texts from a file or a text box are to be read; the same text can mean two things. */
export interface ReadStyle {
  readonly decimal: 'point' | 'comma'
  readonly dateOrder: 'dayFirst' | 'monthFirst'
}

export const PLAIN_STYLE: ReadStyle = { decimal: 'point', dateOrder: 'dayFirst' }

export interface ReadContext {
  readonly catalogue: Directory
  readonly field: Field
  readonly style: ReadStyle
  /** The pipeline named beside a stage, when there is one: stage names may repeat between pipelines. */
  readonly pipelineId: string | null
}

export interface WriteContext {
  readonly catalogue: Directory
  readonly field: Field
  /** The code money is in; `null` leaves the workspace's. */
  readonly currency: string | null
}

/** How a value is edited: data only, the application maps each to one component. */
export type ValueWidget =
  | 'text'
  | 'longText'
  | 'number'
  | 'date'
  | 'dateTime'
  | 'yesNo'
  | 'choice'
  | 'choices'
  | 'stage'
  | 'person'
  | 'pipeline'

/** How the value column is declared in SQLite, and what a prepared statement is given. */
export type Storage = 'text' | 'integer' | 'real'

export interface FieldType<K extends string = string> {
  readonly type: K
  /** The type in words, for pickers. */
  readonly word: string
  readonly storage: Storage
  readonly widget: ValueWidget
  /** Reads a text as a person writes it. Blank text is `null`. */
  read(raw: string, context: ReadContext): Result<Value>
  /** Checks a value that arrives as JSON and brings it into its one stored form. */
  accept(value: Value, context: ReadContext): Result<Value>
  /** For people, in the workspace's manner. Never called with `null`. */
  write(value: Value, context: WriteContext): string
  /** The form in which two values are compared; equal keys mean "the same". Never called with `null`. */
  key(value: Value): string | number
  /** True when values have an order, so that up, down, more and less make sense. */
  readonly ordered: boolean
  /** Texts that must read as the value beside them; run as tests. */
  readonly examples: readonly (readonly [raw: string, value: Value])[]
}

export const defineFieldType = <const K extends string>(type: FieldType<K>): FieldType<K> => Object.freeze(type)
