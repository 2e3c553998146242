import type { Catalogue } from '../fields/catalogue'
import { isEmpty, type Value } from '../language/value'
import type { Problem } from '../language/problems'
import { isEitherWayLinkable, LINKABLE, type RecordSnapshot } from '../records/record'
import { OBJECTS, type ObjectKind } from '../records/kinds'
import type { SentencePart } from '../language/sentence'
import type { Names } from '../fields/names'
import { fieldWord, sayValue } from '../fields/say-value'

/**
 * Merge fields stand in texts as `{{deal.name}}`. They are looked up, never run: what stands between the braces is
 * an object and a field key, or a step and one of its results; behind it may stand what is printed where there is no
 * value, as in `{{contact.firstName or "there"}}`. Nothing else stands there.
 */
const MERGE = /\{\{\s*([A-Za-z][\w-]*)\.([A-Za-z][A-Za-z\d]*)(?:\s+or\s+["“”]([^"“”{}]*)["“”])?\s*\}\}/g

export interface MergeField {
  /** `deal.name` */
  readonly name: string
  /** "deal name" */
  readonly label: string
  readonly object: ObjectKind
  readonly field: string
}

/** The objects whose fields a rule on `object` can put into a text: its own and its main linked ones. */
export function mergeObjects(object: ObjectKind): readonly ObjectKind[] {
  return OBJECTS.filter(
    (one) =>
      one === object ||
      LINKABLE.some((link) => link.from === object && link.to === one) ||
      // Whoever a company or an appointment is written to.
      (one === 'contact' && isEitherWayLinkable(object, one)),
  )
}

/** The key of a result of a step has a dot in it; no field's has. */
const isResult = (key: string): boolean => key.includes('.')

/** Every merge field a text of a rule on `object` may hold. */
export function mergeFields(object: ObjectKind, catalogue: Catalogue): readonly MergeField[] {
  return mergeObjects(object)
    .flatMap((one) => [
      ...(isFirstName(one, FIRST_NAME.key, catalogue)
        ? [
            {
              name: `${one}.${FIRST_NAME.key}`,
              label: `${one} ${FIRST_NAME.label}`,
              object: one,
              field: FIRST_NAME.key,
            },
          ]
        : []),
      ...catalogue.fields(one).map((field) => ({
        ...(isResult(field.key)
          ? { name: field.key, label: fieldWord(field) ?? field.key }
          : { name: `${one}.${field.key}`, label: `${one} ${fieldWord(field)}` }),
        object: one,
        field: field.key,
      })),
    ])
    .filter((field) => field.object === object || !isResult(field.field))
}

export type TextPart =
  { readonly text: string } | { readonly merge: string; /** Printed for no value. */ readonly or?: string }

/** The texts of rules come up with every run: so many of them stay cut. */
const CUT_MOST = 500
const cut = new Map<string, readonly TextPart[]>()

/** A text cut into its plain pieces and its merge fields, in order. */
export function splitText(text: string): readonly TextPart[] {
  const known = cut.get(text)
  if (known) return known
  if (cut.size >= CUT_MOST) cut.clear()
  const parts = cutText(text)
  cut.set(text, parts)
  return parts
}

function cutText(text: string): readonly TextPart[] {
  const parts: TextPart[] = []
  let at = 0
  for (const found of text.matchAll(MERGE)) {
    if (found.index > at) parts.push({ text: text.slice(at, found.index) })
    parts.push({ merge: `${found[1]}.${found[2]}`, ...(found[3] === undefined ? {} : { or: found[3] }) })
    at = found.index + found[0].length
  }
  if (at < text.length) parts.push({ text: text.slice(at) })
  return parts
}

/** What looks like a merge field and is none: no field in the braces, or a brace that is missing. */
const BROKEN = /\{\{[^{}]*\}{0,2}|\{[^{}]*\}\}/g

/**
 * Merge fields of the text that do not exist for the object, and what was meant to be one: it would go out as it is.
 */
export function checkText(text: string, object: ObjectKind, catalogue: Catalogue): readonly Problem[] {
  const allowed = mergeObjects(object)
  return splitText(text).flatMap((part): readonly Problem[] => {
    if (!('merge' in part)) return [...part.text.matchAll(BROKEN)].map(([raw]) => ({ code: 'brokenMerge', raw }))
    if (catalogue.field(object, part.merge)) return []
    const [of, key] = part.merge.split('.') as [ObjectKind, string]
    return allowed.includes(of) && (catalogue.field(of, key) || isFirstName(of, key, catalogue))
      ? []
      : [{ code: 'unknownMerge' as const, name: part.merge }]
  })
}

/**
 * The text with its merge fields filled from the record and its main linked records. A field without a value, or
 * of a record that is not linked, reads "(no expected close)": visible, and never mistaken for a value.
 */
export const fillText = (
  text: string,
  record: RecordSnapshot,
  related: (object: ObjectKind) => RecordSnapshot | null,
  catalogue: Catalogue,
): string =>
  splitText(text)
    .map((part) => {
      if (!('merge' in part)) return part.text
      const found = valueFor(part.merge, record, related, catalogue)
      return 'text' in found ? found.text : (part.or ?? `(no ${found.blank})`)
    })
    .join('')

/** What a merge field comes to; what is blank, in words, where it comes to nothing. */
function valueFor(
  merge: string,
  record: RecordSnapshot,
  related: (object: ObjectKind) => RecordSnapshot | null,
  catalogue: Catalogue,
): { readonly text: string } | { readonly blank: string } {
  const result = catalogue.field(record.object, merge)
  if (result) {
    const value = record.values[merge] ?? null
    return isEmpty(value) ? { blank: fieldWord(result) ?? merge } : { text: sayValue(value, result, catalogue) }
  }
  const [of, key] = merge.split('.') as [ObjectKind, string]
  const source = of === record.object ? record : related(of)
  if (!source) return { blank: of }
  if (isFirstName(of, key, catalogue)) {
    const [first = ''] = String(source.values.name ?? '')
      .trim()
      .split(/\s+/)
    return first === '' ? { blank: FIRST_NAME.label } : { text: first }
  }
  const field = catalogue.field(of, key)
  const value = source.values[key] ?? null
  if (!field || isEmpty(value)) return { blank: fieldWord(field) ?? key }
  return { text: sayValue(value, field, catalogue, source.values) }
}

/** What a merge field holds, in its type; `null` where it comes to nothing. */
export function valueOfMerge(
  merge: string,
  record: RecordSnapshot,
  related: (object: ObjectKind) => RecordSnapshot | null,
  catalogue: Catalogue,
): Value {
  if (catalogue.field(record.object, merge)) return record.values[merge] ?? null
  const [of, key] = merge.split('.') as [ObjectKind, string]
  const source = of === record.object ? record : related(of)
  if (!source) return null
  if (!isFirstName(of, key, catalogue)) return source.values[key] ?? null
  const found = valueFor(merge, record, related, catalogue)
  return 'text' in found ? found.text : null
}

/** The text for somebody outside: nothing blank goes out, but what the text itself gives for it. */
export function fillForOthers(
  text: string,
  record: RecordSnapshot,
  related: (object: ObjectKind) => RecordSnapshot | null,
  catalogue: Catalogue,
): { readonly text: string } | { readonly blank: string } {
  let filled = ''
  for (const part of splitText(text)) {
    if (!('merge' in part)) {
      filled += part.text
      continue
    }
    const found = valueFor(part.merge, record, related, catalogue)
    if ('text' in found) filled += found.text
    else if (part.or === undefined) return found
    else filled += part.or
  }
  return { text: filled }
}

/** By what a contact is greeted: the first word of the name, unless the workspace keeps a field for it. */
const FIRST_NAME = { key: 'firstName', label: 'first name' } as const
const isFirstName = (of: string, key: string, catalogue: Catalogue): boolean =>
  of === 'contact' && key === FIRST_NAME.key && !catalogue.field('contact', key)

/**
 * A text in a sentence, with its merge fields as pieces of their own; `empty` stands for a text that is still to be
 * written.
 */
export function mergeParts(
  param: string,
  text: string,
  empty: SentencePart,
  { catalogue, object }: Names,
): readonly SentencePart[] {
  if (text.trim() === '') return [empty]
  const labels = new Map(mergeFields(object, catalogue).map((field) => [field.name, field.label]))
  return splitText(text).map((part) =>
    'merge' in part
      ? {
          merge: part.merge,
          label: `${labels.get(part.merge) ?? part.merge}${part.or === undefined ? '' : ` or “${part.or}”`}`,
          param,
        }
      : part.text.trim() === ''
        ? { text: part.text }
        : { param, text: part.text },
  )
}
