import { bandField } from '../scoring/card'
import type { Group } from '../conditions/document'
import type { Catalogue } from '../fields/catalogue'
import type { ObjectKind } from '../records/kinds'
import type { RuleDocument } from './document'
import { referencesOf, referencesOfGroup, type Reference } from './references'
import { resultKey } from './results'

/** Whether rules and segments name something: asked before it goes, and for finding rules by what they touch. */

const isField = (one: Reference, object: ObjectKind, key: string): boolean =>
  one.to === 'field' && one.key === key && (one.object === object || one.object === null)
const isChoice = (one: Reference, object: ObjectKind, key: string, choice: string): boolean =>
  one.to === 'value' && one.object === object && one.key === key && one.value === choice
/** Stage ids are nobody else's. */
const isStage = (one: Reference, stage: string): boolean =>
  (one.to === 'stage' && one.id === stage) || (one.to === 'value' && one.value === stage)

const isActivity = (one: Reference, kind: string, key?: string): boolean =>
  key === undefined ? one.to === 'activity' && one.name === kind : one.to === 'field' && one.key === `${kind}.${key}`

/** Whether conditions name a field of a kind of record. */
export const groupUsesField = (group: Group, of: ObjectKind, object: ObjectKind, key: string): boolean =>
  referencesOfGroup(group, of).some(({ reference }) => isField(reference, object, key))

/** Whether conditions name a choice of a field. */
export const groupUsesChoice = (
  group: Group,
  of: ObjectKind,
  object: ObjectKind,
  key: string,
  choice: string,
): boolean => referencesOfGroup(group, of).some(({ reference }) => isChoice(reference, object, key, choice))

/** Whether conditions name a stage. */
export const groupUsesStage = (group: Group, of: ObjectKind, stage: string): boolean =>
  referencesOfGroup(group, of).some(({ reference }) => isStage(reference, stage))

/** Whether a rule names a field, in a trigger, a condition, a step or a text. */
export const usesField = (rule: RuleDocument, object: ObjectKind, key: string): boolean =>
  referencesOf(rule).some(({ reference }) => isField(reference, object, key))

/**
 * Whether a rule names a choice of a field: beside the field, in whatever asks for it or sets it, or as the value of a
 * path.
 */
export const usesChoice = (rule: RuleDocument, object: ObjectKind, key: string, choice: string): boolean =>
  referencesOf(rule).some(({ reference }) => isChoice(reference, object, key, choice))

/** Whether conditions name a kind of activity, or with a key one of its values. */
export const groupUsesActivity = (group: Group, of: ObjectKind, kind: string, key?: string): boolean =>
  referencesOfGroup(group, of).some(({ reference }) => isActivity(reference, kind, key))

/** Whether a rule names a kind of activity, or with a key one of its values. */
export const usesActivity = (rule: RuleDocument, kind: string, key?: string): boolean =>
  referencesOf(rule).some(({ reference }) => isActivity(reference, kind, key)) ||
  (key !== undefined &&
    rule.triggers.some(
      (one) =>
        one.kind === 'activity' &&
        (one.params as { readonly kind: string | null }).kind === kind &&
        referencesOf(rule).some(
          ({ reference }) => reference.to === 'field' && reference.key === resultKey(one.id, key),
        ),
    ))

/** Whether a rule names a stage, wherever. */
export const usesStage = (rule: RuleDocument, stage: string): boolean =>
  referencesOf(rule).some(({ reference }) => isStage(reference, stage))

/** Whether a rule names a band of a score, at a trigger that waits for it or as the value of the band's own field. */
export const usesBand = (
  rule: RuleDocument,
  { object, key }: { readonly object: ObjectKind; readonly key: string },
  band: string,
): boolean =>
  usesChoice(rule, object, bandField(key), band) ||
  referencesOf(rule).some(
    ({ reference: one }) => one.to === 'band' && one.object === object && one.key === key && one.band === band,
  )

/** The segments that a rule names. */
export const segmentsNamed = (rule: RuleDocument): readonly number[] => [
  ...new Set(referencesOf(rule).flatMap(({ reference }) => (reference.to === 'segment' ? [reference.id] : []))),
]

/** The segments that its triggers watch: who is in those is kept. */
export const segmentsWatched = (rule: RuleDocument): readonly number[] => [
  ...new Set(
    referencesOf(rule).flatMap(({ reference, part }) =>
      part === 'trigger' && reference.to === 'segment' ? [reference.id] : [],
    ),
  ),
]

const segmentsIn = (group: Group, object: ObjectKind): readonly number[] =>
  referencesOfGroup(group, object).flatMap(({ reference }) => (reference.to === 'segment' ? [reference.id] : []))

/** The segments that conditions ask about, and those that these ask about in turn. */
export function segmentsWithin(group: Group, object: ObjectKind, catalogue: Catalogue): ReadonlySet<number> {
  const found = new Set<number>()
  const look = (one: Group, of: ObjectKind): void => {
    for (const id of segmentsIn(one, of)) {
      const segment = found.has(id) ? null : catalogue.segment(id)
      found.add(id)
      if (segment) look(segment.filter, segment.object)
    }
  }
  look(group, object)
  return found
}

/** Whether what a rule does can hang on a field: it names it, or the filter of a segment that it names does. */
export function goesBy(rule: RuleDocument, object: ObjectKind, key: string, catalogue: Catalogue): boolean {
  if (usesField(rule, object, key)) return true
  return segmentsNamed(rule).some((id) => {
    const segment = catalogue.segment(id)
    if (!segment) return false
    const { filter, object: of } = segment
    const within = [...segmentsWithin(filter, of, catalogue)].flatMap((one) => catalogue.segment(one) ?? [])
    return [segment, ...within].some((one) => groupUsesField(one.filter, one.object, object, key))
  })
}

/** Every field that a rule names, as "deal.amount", each once: for finding rules by what they touch. */
export const fieldsNamed = (rule: RuleDocument): readonly string[] =>
  [
    ...new Set(
      referencesOf(rule).flatMap(({ reference: one }) =>
        one.to === 'field' && one.object !== null && !one.key.includes('.') ? [`${one.object}.${one.key}`] : [],
      ),
    ),
  ].sort()
