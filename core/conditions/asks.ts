import type { Catalogue } from '../fields/catalogue'
import { formulaOf, formulaThere } from '../formulas/asked'
import { sayType } from '../formulas/types'
import type { Problem } from '../language/problems'
import { say, word, type SentencePart } from '../language/sentence'
import type { Form } from '../language/widgets'
import { oneOf, type ObjectKind } from '../records/kinds'
import type { Ask } from './document'
import type { Moment } from './moment'
import type { Subject } from './subject'

/** Questions about a record as a whole: whether it is in a segment, and whether a formula about it is true. */

/** The names under which they are offered beside the fields. No field's key begins like this. */
export const ASK_KEYS = ['@inSegment', '@formula'] as const
/** And that of a question about what people did. */
export const DID_KEY = '@did'
export type AskKey = (typeof ASK_KEYS)[number]
export const isAskKey = (key: string): key is AskKey => ASK_KEYS.some((one) => one === key)

export const newAsk = (id: string, key: AskKey): Ask =>
  key === '@inSegment'
    ? { kind: 'inSegment', id, not: false, segment: null }
    : { kind: 'formula', id, not: false, text: '' }

/** Whether the formula is true for a record; `null` for one that does not read, or comes to something else. */
export function formulaTest(
  text: string,
  object: ObjectKind,
  catalogue: Catalogue,
): ((subject: Subject, moment: Moment) => boolean) | null {
  const read = formulaThere(text, object, catalogue)
  if (!read.ok || read.formula.type.is !== 'boolean') return null
  const { formula } = read
  return (subject, moment) =>
    formula.value({ values: subject.values, linked: (other) => subject.linked(other) }, moment) === true
}

/** What is still missing or does not fit, with the word it is about; `null` when it is ready to be asked. */
export function checkAsk(
  ask: Ask,
  object: ObjectKind,
  catalogue: Catalogue,
): { readonly param: string; readonly problem: Problem } | null {
  if (ask.kind === 'inSegment') {
    const found = ask.segment === null ? null : catalogue.segment(ask.segment)
    if (!found) return { param: 'segment', problem: { code: 'missing', what: 'segment' } }
    return found.object === object
      ? null
      : { param: 'segment', problem: { code: 'otherSegment', segment: found.name, of: found.object, object } }
  }
  if (ask.text.trim() === '') return { param: 'text', problem: { code: 'missing', what: 'formula' } }
  const read = formulaOf(ask.text, object, catalogue)
  if (!read) return null
  if (!read.ok) {
    const { from, to, text } = read.problem
    return { param: 'text', problem: { code: 'formula', from, to, said: text } }
  }
  return read.formula.type.is === 'boolean'
    ? null
    : { param: 'text', problem: { code: 'notTrueOrFalse', gives: sayType(read.formula.type) } }
}

/** "it is in the segment “Large and open”", "it is true that amount > 3 * margin". */
export function askSentence(
  ask: Ask,
  object: ObjectKind,
  catalogue: Catalogue,
  subject: 'its' | 'the' = 'its',
): readonly SentencePart[] {
  const not = word('not', ask.not ? 'not' : null, '')
  if (ask.kind === 'inSegment') {
    const name = ask.segment === null ? null : (catalogue.segment(ask.segment)?.name ?? null)
    return [
      say(`${subject === 'its' ? 'it' : `the ${oneOf(object)}`} is `),
      { ...not, text: ask.not ? 'not in' : 'in', missing: false },
      say(' the segment '),
      word('segment', name === null ? null : `“${name}”`, 'a segment'),
    ]
  }
  return [
    say('it is '),
    { ...not, text: ask.not ? 'not true that' : 'true that', missing: false },
    say(' '),
    word('text', ask.text.trim() === '' ? null : ask.text.trim(), 'a formula'),
  ]
}

/** What was seen, in words. */
export function sayAsked(ask: Ask, holds: boolean): string {
  const plainly = holds !== ask.not
  return ask.kind === 'inSegment' ? (plainly ? 'in it' : 'not in it') : plainly ? 'true' : 'not true'
}

const NOT = (yes: string, no: string): Form<{ not: string }>['not'] => ({
  widget: 'pick',
  label: 'Condition',
  options: [
    { value: 'is', label: yes },
    { value: 'isNot', label: no },
  ],
})

/** What it is edited with. */
export const askForm = (ask: Ask): Form<Record<string, unknown>> =>
  ask.kind === 'inSegment'
    ? { not: NOT('in the segment', 'not in the segment'), segment: { widget: 'segment' } }
    : { not: NOT('true', 'not true'), text: { widget: 'formula' } }

export const askParams = (ask: Ask): Readonly<Record<string, unknown>> => ({
  not: ask.not ? 'isNot' : 'is',
  ...(ask.kind === 'inSegment' ? { segment: ask.segment } : { text: ask.text }),
})

/** Sets one word of it. */
export function setAskWord(ask: Ask, param: string, value: unknown): Ask {
  if (param === 'not') return { ...ask, not: value === 'isNot' }
  if (ask.kind === 'inSegment') return param === 'segment' ? { ...ask, segment: Number(value) } : ask
  return param === 'text' ? { ...ask, text: String(value) } : ask
}
