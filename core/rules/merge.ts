import type { Catalogue } from '../fields/catalogue'
import { isEmpty } from '../language/value'
import type { Problem } from '../language/problems'
import { LINKABLE, type RecordSnapshot } from '../records/record'
import { OBJECTS, type ObjectKind } from '../records/kinds'
import type { SentencePart } from '../language/sentence'
import type { Names } from '../fields/names'
import { fieldWord, sayValue } from '../fields/say-value'

/**
 * Merge fields stand in texts as `{{deal.name}}`. They are looked up, never run: what stands between the braces is
 * an object and a field key, or a step and one of its results, and nothing else.
 */
const MERGE = /\{\{\s*([A-Za-z][\w-]*)\.([A-Za-z][A-Za-z\d]*)\s*\}\}/g

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
  return OBJECTS.filter((one) => one === object || LINKABLE.some((link) => link.from === object && link.to === one))
}

/** The key of a result of a step has a dot in it; no field's has. */
const isResult = (key: string): boolean => key.includes('.')

/** Every merge field a text of a rule on `object` may hold. */
export function mergeFields(object: ObjectKind, catalogue: Catalogue): readonly MergeField[] {
  return mergeObjects(object)
    .flatMap((one) =>
      catalogue.fields(one).map((field) => ({
        ...(isResult(field.key)
          ? { name: field.key, label: fieldWord(field) ?? field.key }
          : { name: `${one}.${field.key}`, label: `${one} ${fieldWord(field)}` }),
        object: one,
        field: field.key,
      })),
    )
    .filter((field) => field.object === object || !isResult(field.field))
}

export type TextPart = { readonly text: string } | { readonly merge: string }

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
    parts.push({ merge: `${found[1]}.${found[2]}` })
    at = found.index + found[0].length
  }
  if (at < text.length) parts.push({ text: text.slice(at) })
  return parts
}

/** What looks like a merge field and is none: no field in the braces, or a brace that is missing. */
const BROKEN = /\{\{[^{}]*\}{0,2}|\{[^{}]*\}\}/g

/** Merge fields of the text that do not exist for the object, and what was meant to be one: it would go out as it is. */
export function checkText(text: string, object: ObjectKind, catalogue: Catalogue): readonly Problem[] {
  const allowed = mergeObjects(object)
  return splitText(text).flatMap((part): readonly Problem[] => {
    if (!('merge' in part)) return [...part.text.matchAll(BROKEN)].map(([raw]) => ({ code: 'brokenMerge', raw }))
    if (catalogue.field(object, part.merge)) return []
    const [of, key] = part.merge.split('.') as [ObjectKind, string]
    return allowed.includes(of) && catalogue.field(of, key) ? [] : [{ code: 'unknownMerge' as const, name: part.merge }]
  })
}

/**
 * The text with its merge fields filled from the record and its main linked records. A field without a value, or
 * of a record that is not linked, reads "(no expected close)": visible, and never mistaken for a value.
 */
export function fillText(
  text: string,
  record: RecordSnapshot,
  related: (object: ObjectKind) => RecordSnapshot | null,
  catalogue: Catalogue,
): string {
  return splitText(text)
    .map((part) => {
      if (!('merge' in part)) return part.text
      const result = catalogue.field(record.object, part.merge)
      if (result)
        return isEmpty(record.values[part.merge] ?? null)
          ? `(no ${fieldWord(result)})`
          : sayValue(record.values[part.merge] ?? null, result, catalogue)
      const [of, key] = part.merge.split('.') as [ObjectKind, string]
      const source = of === record.object ? record : related(of)
      const field = catalogue.field(of, key)
      const value = source?.values[key] ?? null
      if (!field || isEmpty(value)) return `(no ${source ? (fieldWord(field) ?? key) : of})`
      return sayValue(value, field, catalogue, source?.values)
    })
    .join('')
}

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
      ? { merge: part.merge, label: labels.get(part.merge) ?? part.merge, param }
      : part.text.trim() === ''
        ? { text: part.text }
        : { param, text: part.text },
  )
}
