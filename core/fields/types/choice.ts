import { bad, good, type Result } from '../../language/problems'
import { defineFieldType, type ReadContext } from '../kind'
import { foldText, type Value } from '../../language/value'

const YES = new Set(['yes', 'y', 'true', '1', 'x', 'sim', 'ja', 'oui', 'tak'])
const NO = new Set(['no', 'n', 'false', '0', 'nao', 'nein', 'non', 'nie'])

export const yesNo = defineFieldType({
  type: 'yesNo',
  word: 'yes or no',
  storage: 'integer',
  widget: 'yesNo',
  read: (raw) => {
    const text = foldText(raw)
    if (text === '') return good(null)
    return YES.has(text) ? good(true) : NO.has(text) ? good(false) : bad({ code: 'notYesNo', raw })
  },
  accept: (value) =>
    value === null || typeof value === 'boolean' ? good(value) : bad({ code: 'wrongType', type: 'yes or no' }),
  write: (value) => (value ? 'yes' : 'no'),
  key: (value) => (value ? 1 : 0),
  ordered: false,
  examples: [
    ['Yes', true],
    ['no', false],
    ['', null],
  ],
})

function findChoice(raw: string, { field }: ReadContext): Result<string> {
  const wanted = foldText(raw)
  const found = field.choices.find((choice) => choice.id === raw || foldText(choice.label) === wanted)
  return found ? good(found.id) : bad({ code: 'notAChoice', raw, choices: field.choices.map((choice) => choice.label) })
}

const label = (id: string, choices: readonly { readonly id: string; readonly label: string }[]): string =>
  choices.find((choice) => choice.id === id)?.label ?? id

export const choice = defineFieldType({
  type: 'choice',
  word: 'choice',
  storage: 'text',
  widget: 'choice',
  read: (raw, context) => (raw.trim() === '' ? good(null) : findChoice(raw, context)),
  accept: (value, context) => {
    if (value === null) return good(null)
    return typeof value === 'string' ? findChoice(value, context) : bad({ code: 'wrongType', type: 'choice' })
  },
  write: (value, { field }) => label(String(value), [...field.choices, ...(field.gone ?? [])]),
  key: (value) => String(value),
  ordered: false,
  examples: [
    ['Hire', 'hire'],
    [' HIRE ', 'hire'],
    ['', null],
  ],
})

function findAll(items: readonly string[], context: ReadContext): Result<Value> {
  const ids = new Set<string>()
  for (const item of items) {
    const found = findChoice(item, context)
    if (!found.ok) return found
    ids.add(found.value)
  }
  // One order for one set, so that the same choices are never taken for a change.
  const ordered = context.field.choices.map((one) => one.id).filter((id) => ids.has(id))
  return good(ordered.length ? ordered : null)
}

export const choices = defineFieldType({
  type: 'choices',
  word: 'multiple choice',
  storage: 'text',
  widget: 'choices',
  read: (raw, context) =>
    findAll(
      raw
        .split(/[;|]/)
        .map((item) => item.trim())
        .filter(Boolean),
      context,
    ),
  accept: (value, context) => {
    if (value === null) return good(null)
    return Array.isArray(value) ? findAll(value, context) : bad({ code: 'wrongType', type: 'multiple choice' })
  },
  write: (value, { field }) =>
    Array.isArray(value)
      ? value.map((id: string) => label(id, [...field.choices, ...(field.gone ?? [])])).join(', ')
      : String(value),
  key: (value) => JSON.stringify(value),
  ordered: false,
  examples: [
    ['Service; Hire', ['hire', 'service']],
    ['', null],
  ],
})
