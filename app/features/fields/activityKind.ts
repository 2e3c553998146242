import { slug } from '#core/fields/define'
import { FIELD_TYPES } from '#core/fields/types'
import { capital } from '#core/language/nouns'
import type { ActivityValue } from '#core/activities/kind'

/** A kind of activity while somebody writes it. */
export interface WrittenKind {
  /** `null` for a new one. */
  kind: string | null
  did: string
  does: string
  one: string
  many: string
  about: string
  data: WrittenValue[]
}

export interface WrittenValue {
  /** `null` for a new one: it gets one from its label. */
  key: string | null
  label: string
  type: ActivityValue['type']
  /** One a line; what is kept of one that was there already stays. */
  choices: string
  readonly before: readonly { readonly id: string; readonly label: string }[]
}

export const NEW_KIND: WrittenKind = { kind: null, did: '', does: '', one: '', many: '', about: 'text', data: [] }

export const newValue = (): WrittenValue => ({ key: null, label: '', type: 'text', choices: '', before: [] })

export const VALUE_TYPES = (['text', 'longText', 'number', 'yesNo', 'choice', 'dateTime'] as const).map((type) => ({
  type,
  label: capital(FIELD_TYPES[type].word),
}))

export const writtenValue = ({ key, label, type, choices = [] }: ActivityValue): WrittenValue => ({
  key,
  label,
  type,
  choices: choices.map((one) => one.label).join('\n'),
  before: choices,
})

function keyFor(label: string, taken: readonly string[]): string {
  const word = slug(label)
    .replace(/^[\d-]+/, '')
    .replace(/-([a-z\d])/g, (_, letter: string) => letter.toUpperCase())
    .slice(0, 38)
  const base = word === '' || word === 'about' || word === 'atMs' ? `value${word}` : word
  for (let n = 1; ; n++) {
    const key = n === 1 ? base : `${base}${n}`
    if (!taken.includes(key)) return key
  }
}

/** The values as they are kept: new ones and new choices get keys from their labels. */
export function valuesOf(written: readonly WrittenValue[]): readonly ActivityValue[] {
  const taken = written.flatMap(({ key }) => key ?? [])
  return written.map(({ key, label, type, choices, before }) => {
    const own = key ?? keyFor(label, taken)
    if (key === null) taken.push(own)
    const lines = choices
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== '')
    return {
      key: own,
      label: label.trim(),
      type,
      ...(type === 'choice'
        ? {
            choices: [...new Set(lines)].map((one) => ({
              id: before.find((known) => known.label === one)?.id ?? one,
              label: one,
            })),
          }
        : {}),
    }
  })
}
