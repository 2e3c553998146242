import { count, figure, plural } from '../language/counts'
import type { Catalogue } from '../fields/catalogue'
import { OBJECT_WORDS, OBJECTS, type ObjectKind } from '../records/kinds'
import { isEitherWayLinkable } from '../records/record'
import type { Linked, LinkedHow } from './document'
import { mainKinds } from './operators/another-field'
import type { LinkedSubject } from './subject'
import { say, type SentencePart } from '../language/sentence'
import type { Moment } from './moment'

export const LINKED_HOW_WORDS: { readonly [K in LinkedHow]: string } = {
  any: 'a',
  atLeast: 'at least',
  none: 'no',
  every: 'only',
  main: 'the main',
}

/** Kinds that a record can have linked ones of. */
export const linkedKinds = (object: ObjectKind): readonly ObjectKind[] =>
  OBJECTS.filter((other) => isEitherWayLinkable(object, other))

/** What can be asked; only where the record itself points to others is one of them the main one. */
export const howsFor = (object: ObjectKind, other: ObjectKind): readonly LinkedHow[] => [
  'any',
  'atLeast',
  'none',
  'every',
  ...(mainKinds(object).includes(other) ? (['main'] as const) : []),
]

/** Whether the question is one that can be asked of such a record. */
export const canAsk = (linked: Linked, object: ObjectKind): boolean =>
  isEitherWayLinkable(object, linked.object) && (linked.how !== 'main' || mainKinds(object).includes(linked.object))

/** Whether the linked records answer yes. `test` is what is asked of each. */
export function linkedHolds(
  linked: Linked,
  records: readonly LinkedSubject[],
  test: (subject: LinkedSubject, moment: Moment) => boolean,
  moment: Moment,
): boolean {
  switch (linked.how) {
    case 'any':
      return records.some((one) => test(one, moment))
    case 'none':
      return !records.some((one) => test(one, moment))
    case 'every':
      return records.length > 0 && records.every((one) => test(one, moment))
    case 'main':
      return records.some((one) => one.main && test(one, moment))
    case 'atLeast': {
      let left = linked.count
      return records.some((one) => test(one, moment) && --left === 0)
    }
  }
}

/** "has at least 3 deals of which …"; its words can be edited, the group below it is a sheet of its own. */
export function linkedSentence(linked: Linked, _object: ObjectKind, _catalogue: Catalogue): readonly SentencePart[] {
  const { one, many } = OBJECT_WORDS[linked.object]
  const { how } = linked
  const several = how === 'every' || (how === 'atLeast' && linked.count !== 1)
  return [
    say('has '),
    { param: 'how', text: LINKED_HOW_WORDS[how] },
    say(' '),
    ...(how === 'atLeast' ? [{ param: 'count', text: String(linked.count) }, say(' ')] : []),
    { param: 'object', text: several || how === 'none' ? many : one },
    ...(linked.group.items.length > 0 ? [say(' where')] : []),
  ]
}

/** "2 of its 5 deals" for what was seen. */
export function sayLinked(linked: Linked, fit: number, of: number): string {
  const { one, many } = OBJECT_WORDS[linked.object]
  if (of === 0) return `no ${many}`
  if (linked.group.items.length === 0) return count(of, linked.object)
  return of === 1
    ? `its only ${one} ${fit === 1 ? 'matches' : 'doesn’t match'}`
    : `${figure(fit)} of ${count(of, linked.object)} ${plural(fit, 'matches', 'match')}`
}
