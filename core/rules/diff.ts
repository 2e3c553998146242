import { count } from '../language/counts'
import { capital } from '../language/nouns'
import { conditionSentence } from '../conditions/compile'
import { askSentence } from '../conditions/asks'
import { isAsk, objectWithin, type Group, type Item } from '../conditions/document'
import { didSentence } from '../conditions/did'
import { linkedSentence } from '../conditions/linked'
import type { Catalogue } from '../fields/catalogue'
import { OBJECT_WORDS, type ObjectKind } from '../records/kinds'
import type { RuleDocument } from './document'
import { sayStep, sayTrigger } from './describe'
import { goesByTime, goingOnSentence } from './going-on'
import { repeatSentence } from './repeats'
import { withResults } from './results'
import { STEPS } from './steps'
import { goalSentence } from './goal'
import { groupsOf, placedBranches, placedSteps } from './tree'
import { plainSentence } from '../language/sentence'

/** One thing in which two versions of a rule differ, in words. */
export interface RuleChange {
  readonly how: 'added' | 'removed' | 'changed' | 'moved'
  /** What it is about: "when", "only if", "step 3a1", "path 3a", "name". */
  readonly place: string
  readonly before: string | null
  readonly after: string | null
}

/** A part with the words it is told apart by. */
interface Part {
  readonly id: string
  readonly place: string
  readonly text: string
  /** Where it stands, apart from what it says: moving it changes this and nothing else. */
  readonly within: string
}

const MODE_WORDS = { all: 'all of these are true', any: 'any of these is true', none: 'none of these is true' } as const

function conditionParts(group: Group, object: ObjectKind, place: string, catalogue: Catalogue): readonly Part[] {
  const one = (item: Item): readonly Part[] => {
    if (item.kind === 'condition')
      return [{ id: item.id, place, text: plainSentence(conditionSentence(item, object, catalogue)), within: group.id }]
    if (item.kind === 'group') return conditionParts(item, object, place, catalogue)
    if (isAsk(item))
      return [{ id: item.id, place, text: plainSentence(askSentence(item, object, catalogue)), within: group.id }]
    const said = item.kind === 'did' ? didSentence(item, object, catalogue) : linkedSentence(item, object, catalogue)
    return [
      { id: item.id, place, text: plainSentence(said), within: group.id },
      ...conditionParts(item.group, objectWithin(item), place, catalogue),
    ]
  }
  const joined: readonly Part[] =
    group.items.length > 1 || group.mode !== 'all'
      ? [{ id: `${group.id} mode`, place, text: MODE_WORDS[group.mode], within: '' }]
      : []
  return [...joined, ...group.items.flatMap(one)]
}

function partsOf(rule: RuleDocument, plain: Catalogue): readonly Part[] {
  const catalogue = withResults(rule, plain)
  const names = { catalogue, object: rule.object }
  return [
    { id: 'name', place: 'name', text: rule.name, within: '' },
    { id: 'description', place: 'description', text: rule.description, within: '' },
    { id: 'object', place: 'records', text: OBJECT_WORDS[rule.object].many, within: '' },
    ...rule.triggers.map((trigger): Part => ({
      id: trigger.id,
      place: 'when',
      text: sayTrigger(trigger, names),
      within: '',
    })),
    ...(goesByTime(rule)
      ? [{ id: 'goingOn', place: 'waiting', text: plainSentence(goingOnSentence(rule)), within: '' }]
      : []),
    { id: 'repeats', place: 'repeats', text: plainSentence(repeatSentence(rule.repeats)), within: '' },
    ...(rule.goal ? [{ id: 'goal', place: 'target', text: plainSentence(goalSentence(rule.goal)), within: '' }] : []),
    ...groupsOf(rule).flatMap(({ group, object, branch }) =>
      conditionParts(
        group,
        object,
        branch ? `path ${branch.label}` : group === rule.goal?.conditions ? 'target' : 'only if',
        catalogue,
      ),
    ),
    ...placedSteps(rule).map(({ step, label, object, branch, at }): Part => ({
      id: step.id,
      place: `step ${label}`,
      text: sayStep(step, { catalogue, object }),
      within: `${branch?.id ?? ''} ${at}`,
    })),
    ...placedBranches(rule)
      .filter(({ branch }) => branch.when === undefined && branch.value !== undefined)
      .map(({ branch, of, label, object }): Part => ({
        id: branch.id,
        place: `path ${label}`,
        text: STEPS[of.kind].ways?.label(branch, 0, of.branches ?? [], of.params, { catalogue, object }) ?? '',
        within: '',
      })),
  ]
}

/**
 * What is different in `after`, in the order of the sheet: parts are told apart by their ids, so that a step with
 * another word in it is a change and not one that went and one that came.
 */
export function diffRules(before: RuleDocument, after: RuleDocument, catalogue: Catalogue): readonly RuleChange[] {
  const [old, next] = [partsOf(before, catalogue), partsOf(after, catalogue)]
  const known = new Map(old.map((part) => [part.id, part]))
  const stays = new Set(next.map((part) => part.id))
  const gone = old.filter((part) => !stays.has(part.id))
  /** Moved are only those that stand in another order among those that stayed, not those that others made room for. */
  const order = (parts: readonly Part[]) =>
    parts.filter((part) => known.has(part.id) && stays.has(part.id)).map((part) => part.id)
  const [was, is] = [order(old), order(next)]
  const moved = new Set(is.filter((id, i) => was[i] !== id))
  return [
    ...next.flatMap((part): RuleChange[] => {
      const same = known.get(part.id)
      if (!same) return [{ how: 'added', place: part.place, before: null, after: part.text }]
      if (same.text !== part.text) return [{ how: 'changed', place: part.place, before: same.text, after: part.text }]
      const elsewhere = part.within.split(' ')[0] !== same.within.split(' ')[0]
      return part.place.startsWith('step') && (elsewhere || moved.has(part.id))
        ? [{ how: 'moved', place: part.place, before: same.place, after: part.text }]
        : []
    }),
    ...gone.map((part): RuleChange => ({ how: 'removed', place: part.place, before: part.text, after: null })),
  ].filter((change) => change.before !== '' || change.after !== '')
}

/** A change as one line: "step 2: set units to 1 → set units to 2". */
export function sayChange({ how, place, before, after }: RuleChange): string {
  switch (how) {
    case 'added':
      return `${capital(place)} added: ${after}`
    case 'removed':
      return `${capital(place)} removed: ${before}`
    case 'moved':
      return `${capital(place)} moved (was ${before}): ${after}`
    case 'changed':
      return `${capital(place)}: ${before || 'empty'} → ${after || 'empty'}`
  }
}

const HEARD_MOST = 3
/** Changes as one text that is heard and not read: three of them, and how many more. Empty for none. */
export function sayChanges(changes: readonly RuleChange[]): string {
  const more = changes.length - HEARD_MOST
  return [...changes.slice(0, HEARD_MOST).map(sayChange), ...(more > 0 ? [`${count(more, 'change')} more`] : [])].join(
    '. ',
  )
}
