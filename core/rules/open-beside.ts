import { z } from 'zod'
import type { Catalogue } from '../fields/catalogue'
import { fieldWord } from '../fields/say-value'
import { isEmpty } from '../language/value'
import { extra, say, type SentencePart } from '../language/sentence'
import type { Widget } from '../language/widgets'
import type { ObjectKind, RecordRef } from '../records/kinds'
import type { RecordSnapshot } from '../records/record'
import type { StepContext } from './step'

/** A second open deal for the same thing: which other one keeps a step from bringing one about. */

/** `either` is any that the record itself is linked to; of a deal, one of its company or its contact. */
export const BESIDE = ['none', 'either', 'company', 'contact'] as const
export type Beside = (typeof BESIDE)[number]

export const zBeside = z.enum(BESIDE)

const OF_WORDS: { readonly [B in Exclude<Beside, 'none'>]: (where: string) => string } = {
  either: (where) => `unless its company or its contact has an open deal already${where}`,
  company: (where) => `unless its company has an open deal already${where}`,
  contact: (where) => `unless its contact has an open deal already${where}`,
}

export const sayBeside = (beside: Beside, where = ''): string =>
  beside === 'none' ? 'even beside another open deal' : OF_WORDS[beside](where)

export const besideWidget: Widget = {
  widget: 'pick',
  label: 'Another open deal',
  options: BESIDE.map((value) => ({ value, label: sayBeside(value) })),
}

/** " with the same kind": the field that both must hold the same in. */
export function sayAlike(key: string | null, object: ObjectKind, catalogue: Catalogue): readonly SentencePart[] {
  const field = key === null ? null : catalogue.field(object, key)
  return [say(' '), extra('alike', field ? `with the same ${fieldWord(field) ?? ''}` : 'of any kind', field === null)]
}

/**
 * The open deal that stands in the way of another one for a record; `null` where none does. `fits` says which of the
 * open ones count, and `own` is never among them.
 */
export function openBeside(
  beside: Beside,
  own: RecordRef,
  { catalogue, linked, linkedOf, related }: Pick<StepContext, 'catalogue' | 'linked' | 'linkedOf' | 'related'>,
  fits: (deal: RecordSnapshot) => boolean,
): RecordSnapshot | null {
  const dealsOf = (object: 'company' | 'contact'): readonly RecordSnapshot[] => {
    if (own.object === object) return linked('deal').map(({ record }) => record)
    const main = related(object)
    return main ? linkedOf({ object, id: main.id }, 'deal').map(({ record }) => record) : []
  }
  const found =
    beside === 'none'
      ? []
      : beside === 'either'
        ? own.object === 'deal'
          ? [...dealsOf('company'), ...dealsOf('contact')]
          : linked('deal').map(({ record }) => record)
        : dealsOf(beside)
  return (
    found.find(
      (deal) =>
        !(own.object === 'deal' && deal.id === own.id) &&
        catalogue.stage(String(deal.values.stage))?.outcome === 'open' &&
        fits(deal),
    ) ?? null
  )
}

/** Fields whose values are the same for things of one sort. */
export const ALIKE_TYPES = ['choice', 'text', 'yesNo', 'person'] as const

/** Whether two records hold the same in a field; they do where none is named, or the field has gone. */
export function isAlike(a: RecordSnapshot, b: RecordSnapshot, key: string | null, catalogue: Catalogue): boolean {
  const field = key === null ? null : catalogue.field('deal', key)
  if (!field) return true
  const [one, other] = [a.values[field.key] ?? null, b.values[field.key] ?? null]
  return isEmpty(one) || isEmpty(other)
    ? isEmpty(one) && isEmpty(other)
    : catalogue.compared(field, one) === catalogue.compared(field, other)
}
