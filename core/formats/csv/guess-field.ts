import type { Catalogue } from '../../fields/catalogue'
import type { ReadStyle } from '../../fields/kind'
import { FIELD_TYPES } from '../../fields/types'
import { readNumber } from '../../fields/types/number'
import type { FieldTypeName } from '../../language/field-types'
import { foldText } from '../../language/value'
import { readDate, readInstant } from '../../time/dates'
import type { RecordKind } from '../../records/kinds'

/** What a column would be as a field of its own; everything can be changed before it is made. */
export interface GuessedField {
  readonly type: FieldTypeName
  /** For a choice, in the order in which the file names them. */
  readonly choices: readonly string[]
}

/** Words that come back again and again are choices, as long as they are few and short. */
const CHOICES_MOST = 20
const CHOICE_LETTERS = 60
const CHOICES_FROM = 6
/** So many cells say what a column is. */
const LOOKED_AT = 5000

const PHONE_HEADING = /\b(phone|mobile|cell|tel|telephone|fax|telefone|telefon)\b/

/** A house or part number with zeros in front is no number, nor is one of more digits than a number keeps. */
const isAmount = (text: string): boolean => !/^0\d/.test(text) && text.replace(/\D/g, '').length <= 15

/** Guesses the type of a column that no field takes, by the cells in it; text when they are of no one kind. */
export function guessField(
  heading: string,
  cells: readonly string[],
  {
    object,
    style,
    catalogue,
  }: { readonly object: RecordKind; readonly style: ReadStyle; readonly catalogue: Catalogue },
): GuessedField {
  const filled = cells
    .map((cell) => cell.trim())
    .filter(Boolean)
    .slice(0, LOOKED_AT)
  const name = catalogue.field(object, 'name')
  const every = (fits: (cell: string) => boolean): boolean => filled.length > 0 && filled.every(fits)
  const reads = (type: FieldTypeName): boolean =>
    name !== null &&
    every((cell) => FIELD_TYPES[type].read(cell, { catalogue, field: name, style, pipelineId: null }).ok)
  const plain = (type: FieldTypeName): GuessedField => ({ type, choices: [] })

  // Without its country a phone number cannot be called from here; a number to reckon with it is not either.
  if (PHONE_HEADING.test(foldText(heading))) return plain(reads('phone') ? 'phone' : 'text')
  if (every((cell) => readNumber(cell, style.decimal) !== null && isAmount(cell))) {
    if (every((cell) => cell.endsWith('%'))) return plain('percent')
    return plain(every((cell) => /^[+-]?(?:[€$£]|[A-Z]{3})|(?:[€$£]|[A-Z]{3})$/.test(cell)) ? 'currency' : 'number')
  }
  if (every((cell) => readDate(cell, style.dateOrder) !== null)) return plain('date')
  if (every((cell) => readInstant(cell, catalogue.workspace.zone, style.dateOrder) !== null)) return plain('dateTime')
  if (reads('yesNo')) return plain('yesNo')
  if (reads('email')) return plain('email')
  if (every((cell) => /^(https?:\/\/|www\.)/i.test(cell)) && reads('link')) return plain('link')
  const words = new Map<string, string>()
  for (const cell of filled) if (!words.has(foldText(cell))) words.set(foldText(cell), cell)
  const few = words.size <= CHOICES_MOST && filled.length >= Math.max(CHOICES_FROM, words.size * 2)
  if (few && every((cell) => cell.length <= CHOICE_LETTERS && !cell.includes('\n')))
    return { type: 'choice', choices: [...words.values()] }
  return plain(every((cell) => cell.length <= 200 && !cell.includes('\n')) ? 'text' : 'longText')
}
