import type { ActivityName, ActivityTable } from '../activities'
import type { Catalogue } from '../fields/catalogue'
import { activityValues } from '../activities/fields'
import { count, figure, plural } from '../language/counts'
import { article } from '../language/nouns'
import type { Problem } from '../language/problems'
import { say, word, type SentencePart } from '../language/sentence'
import type { Form } from '../language/widgets'
import type { Activity } from '../records/activity'
import { aOne, OBJECT_WORDS, oneOf, type ObjectKind, type RecordKind } from '../records/kinds'
import { isEitherWayLinkable } from '../records/record'
import { addDays, startOfDate } from '../time/dates'
import { DID_DAYS_MOST, LINKED_COUNT_MOST, type Did, type DidHow, type DidSpan, type Group } from './document'
import { linkedKinds } from './linked'
import type { Moment } from './moment'
import { alone, type AskingRun, type Subject } from './subject'

/** Questions about what people did. */

export const newDid = (id: string, object: ObjectKind): Did => ({
  kind: 'did',
  id,
  how: 'any',
  count: 3,
  activity: null,
  by: object === 'none' ? 'contact' : object,
  span: 'days',
  days: 14,
  group: { kind: 'group', id: `${id}w`, mode: 'all', items: [] },
})

const isOwn = (did: Did, object: ObjectKind): boolean => did.by === object

/** Of an activity only its own values are asked: it is linked to nothing, and in no segment. */
const isPlain = (group: Group): boolean =>
  group.items.every((item) => item.kind === 'condition' || (item.kind === 'group' && isPlain(item)))

/** Whether it can be asked of such a record. */
export const canAskDid = (did: Did, object: ObjectKind): boolean =>
  did.activity !== null && (isOwn(did, object) || isEitherWayLinkable(object, did.by)) && isPlain(did.group)

/** What is still missing or does not fit, with the word it is about; `null` when it is ready to be asked. */
export function checkDid(
  did: Did,
  object: ObjectKind,
  { activities, stepsBefore }: Pick<Catalogue, 'activities' | 'stepsBefore'>,
): { readonly param: string; readonly problem: Problem } | null {
  if (did.activity === null) return { param: 'activity', problem: { code: 'missing', what: 'activity' } }
  if (!activities.active(did.activity))
    return { param: 'activity', problem: { code: 'unknownActivity', name: activities.words(did.activity).one } }
  if (!isOwn(did, object) && !isEitherWayLinkable(object, did.by))
    return { param: 'by', problem: { code: 'notLinked', object, to: did.by } }
  if (did.span === 'step' && !stepsBefore.some(({ id }) => id === did.step))
    return { param: 'step', problem: { code: 'missing', what: 'earlierStep' } }
  return null
}

/** From when on it must have been done (ms); `null` for ever. Days are those of the workspace, the first one whole. */
export function didSince(
  { span, days, step = '' }: Pick<Did, 'span' | 'days' | 'step'>,
  moment: Moment,
  run: AskingRun | null,
): number | null {
  switch (span) {
    case 'ever':
      return null
    case 'days':
      return startOfDate(addDays(moment.today, -days), moment.zone)
    case 'run':
      // Where no run asks, it would begin now.
      return run?.startedMs ?? moment.nowMs
    case 'step':
      // Before it is done nothing was done since.
      return run?.steps.get(step) ?? moment.nowMs
  }
}

/** What is looked at, the oldest first: those of the kind that were done in the span. */
export function didSeen(did: Did, object: ObjectKind, subject: Subject, moment: Moment): readonly Activity[] {
  const since = didSince(did, moment, subject.run)
  const all = isOwn(did, object) ? subject.done() : subject.linked(did.by).flatMap((one) => one.done())
  const found = all.filter(
    ({ kind, atMs }) => kind === did.activity && atMs <= moment.nowMs && (since === null || atMs >= since),
  )
  return isOwn(did, object) ? found : [...found].sort((a, b) => a.atMs - b.atMs || a.id - b.id)
}

type Test = (subject: Subject, moment: Moment) => boolean
const asked = (one: Pick<Activity, 'kind' | 'about' | 'data' | 'atMs'>): Subject => alone(activityValues(one))

/** The one that is asked about; `null` where it is about all of them, or there is none. */
function theOne(did: Did, object: ObjectKind, subject: Subject, moment: Moment) {
  if (did.how === 'this' && subject.run) {
    const started = subject.run.activity
    return started && started.kind === did.activity && started.by === did.by ? started : null
  }
  return didSeen(did, object, subject, moment).at(-1) ?? null
}

/** Whether what was done answers yes. `test` is what is asked of each. */
export function didHolds(did: Did, object: ObjectKind, subject: Subject, test: Test, moment: Moment): boolean {
  if (!canAskDid(did, object)) return false
  const fits = (one: Pick<Activity, 'kind' | 'about' | 'data' | 'atMs'>): boolean => test(asked(one), moment)
  switch (did.how) {
    case 'any':
      return didSeen(did, object, subject, moment).some(fits)
    case 'none':
      return !didSeen(did, object, subject, moment).some(fits)
    case 'atLeast': {
      let left = did.count
      return didSeen(did, object, subject, moment).some((one) => fits(one) && --left === 0)
    }
    case 'last':
    case 'this': {
      const one = theOne(did, object, subject, moment)
      return one !== null && fits(one)
    }
  }
}

const SPAN_WORDS: { readonly [S in DidSpan]: string } = {
  ever: 'at any time',
  days: 'in the last',
  run: 'since this run began',
  step: 'since step',
}

const howWord = (how: DidHow, one: string | null): string => {
  switch (how) {
    case 'any':
      return one === null ? 'an' : (article(one).split(' ')[0] ?? '')
    case 'atLeast':
      return 'at least'
    case 'none':
      return 'no'
    case 'last':
      return 'last'
    case 'this':
      return 'was started by'
  }
}

/**
 * "has at least 3 page visits of a contact in the last 14 days where …", "the last call of its own at any time is one
 * where …", "was started by a page visit of a contact where …".
 */
export function didSentence(
  did: Did,
  object: ObjectKind,
  { activities, stepsBefore }: Pick<Catalogue, 'activities' | 'stepsBefore'>,
): readonly SentencePart[] {
  const { how, activity, span, days } = did
  const words = activity && activities.words(activity)
  const several = how === 'none' || (how === 'atLeast' && did.count !== 1)
  const asks = did.group.items.length > 0
  const one: readonly SentencePart[] = [
    word('activity', words && (several ? words.many : words.one), 'activity'),
    say(' of '),
    { param: 'by', text: isOwn(did, object) ? 'its own' : aOne(did.by) },
  ]
  const since: readonly SentencePart[] = [
    say(' '),
    { param: 'span', text: SPAN_WORDS[span] },
    ...(span === 'days' ? [say(' '), { param: 'days', text: count(days, 'day') }] : []),
    ...(span === 'step'
      ? [say(' '), word('step', stepsBefore.find(({ id }) => id === did.step)?.label ?? null, 'an earlier step')]
      : []),
  ]
  const said: SentencePart = { param: 'how', text: howWord(how, words && words.one) }
  if (how === 'this')
    return [
      said,
      say(` ${words ? (article(words.one).split(' ')[0] ?? 'a') : 'an'} `),
      ...one,
      ...(asks ? [say(' where')] : []),
    ]
  if (how === 'last') return [say('the '), said, say(' '), ...one, ...since, say(asks ? ' is one where' : ' is there')]
  return [
    say('has '),
    said,
    say(' '),
    ...(how === 'atLeast' ? [{ param: 'count', text: String(did.count) }, say(' ')] : []),
    ...one,
    ...since,
    ...(asks ? [say(' where')] : []),
  ]
}

/** "2 of 5 page visits" for what was seen. */
export function sayDid(
  did: Did,
  object: ObjectKind,
  subject: Subject,
  test: Test,
  moment: Moment,
  activities: ActivityTable,
): string {
  if (!did.activity) return 'nothing'
  const { one, many } = activities.words(did.activity)
  if (did.how === 'last' || did.how === 'this') {
    const found = theOne(did, object, subject, moment)
    return found ? `${one}${found.about === '' ? '' : `: ${found.about}`}` : `no ${one}`
  }
  const seen = didSeen(did, object, subject, moment)
  if (seen.length === 0) return `no ${many}`
  if (did.group.items.length === 0) return `${figure(seen.length)} ${plural(seen.length, one, many)}`
  const fit = seen.filter((each) => test(asked(each), moment)).length
  return `${figure(fit)} of ${figure(seen.length)} ${plural(seen.length, one, many)} ${plural(fit, 'matches', 'match')}`
}

/** The words that such a question is made of. */
export const didForm = (object: ObjectKind): Form<Record<string, unknown>> => ({
  how: {
    label: 'How many',
    widget: 'pick',
    options: [
      { value: 'any', label: 'at least one' },
      { value: 'atLeast', label: 'at least so many' },
      { value: 'none', label: 'none' },
      { value: 'last', label: 'the last one' },
      { value: 'this', label: 'the one that started this', hint: 'lists and counts use the last one' },
    ],
  },
  count: { widget: 'count', min: 1, max: LINKED_COUNT_MOST },
  activity: {
    label: 'Activity',
    widget: 'activity',
    form: 'one',
  },
  by: {
    label: 'Whose',
    widget: 'pick',
    options: [object, ...linkedKinds(object)]
      .filter((one) => one !== 'none')
      .map((value) => ({
        value,
        label: value === object ? `the ${oneOf(object)} itself` : OBJECT_WORDS[value].many,
        hint: value === object ? '' : `linked to the ${oneOf(object)}`,
      })),
  },
  span: {
    label: 'Since when',
    widget: 'pick',
    options: [
      { value: 'ever', label: 'at any time' },
      { value: 'days', label: 'in the last days' },
      { value: 'run', label: 'since this run began' },
      { value: 'step', label: 'since an earlier step', needs: 'steps' },
    ],
  },
  days: { label: 'Days', widget: 'count', min: 0, max: DID_DAYS_MOST },
  step: { label: 'Step', widget: 'stepBefore' },
})

/** Sets one word of it. What was asked of one kind of activity cannot be asked of another. */
export function setDidWord(did: Did, param: string, value: unknown): Did {
  switch (param) {
    case 'how':
      return { ...did, how: value as DidHow }
    case 'count':
      return { ...did, count: Number(value) }
    case 'days':
      return { ...did, days: Number(value) }
    case 'span':
      return { ...did, span: value as DidSpan }
    case 'step':
      return { ...did, step: String(value) }
    case 'by':
      return { ...did, by: value as RecordKind }
    case 'activity':
      return value === did.activity
        ? did
        : { ...did, activity: value as ActivityName, group: { ...did.group, items: [] } }
    default:
      return did
  }
}
