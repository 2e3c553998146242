import { count, figure, listOf, plural } from './counts'
import type { CannotWait } from './problems'
import { sayFault, type FormulaFault } from './formula-fault'
import { article, NOUNS } from './nouns'

/**
 * Why a step did nothing, why it failed, and why a run ended: codes and facts, kept in the journal. The words are made
 * when they are read, without the state in front of them: whoever shows a reason says “Skipped” or “Stopped” once.
 */
type Counted = 'deal' | 'contact' | 'company' | 'appointment' | 'none'

/** Why a step did nothing although the run goes on. */
export type SkipReason =
  | { readonly code: 'alreadyThere'; readonly stage: string }
  | { readonly code: 'otherPipeline'; readonly stage: string; readonly pipeline: string }
  | { readonly code: 'backwards'; readonly from: string; readonly to: string }
  | { readonly code: 'openBeside'; readonly deal: string; readonly of?: string }
  | { readonly code: 'sameValue'; readonly field: string }
  | { readonly code: 'setByHand'; readonly field: string; readonly value: string }
  | { readonly code: 'nobody'; readonly field: string }
  | { readonly code: 'left'; readonly person: string }
  | { readonly code: 'noPerson'; readonly person: string }
  | { readonly code: 'allAway' }
  | { readonly code: 'noCompany' }
  | { readonly code: 'noTerritory'; readonly company: string }
  | { readonly code: 'inQueue' }
  | { readonly code: 'owned'; readonly person: string }
  | { readonly code: 'stillOpen'; readonly title: string }
  | { readonly code: 'openThere'; readonly deal: string }
  | { readonly code: 'linkedAlready'; readonly name: string }
  | { readonly code: 'hasLink'; readonly to: Counted }
  | { readonly code: 'nothingToMatch'; readonly field: string }
  | { readonly code: 'ignored'; readonly form: string }
  | { readonly code: 'noMatch'; readonly to: Counted; readonly form: string }
  | {
      readonly code: 'severalMatch'
      readonly to: Counted
      readonly form: string
      readonly count: number
      readonly names: readonly string[]
    }
  /** A formula came to nothing, because something that it needs is empty. */
  | { readonly code: 'nothingCame'; readonly field: string }
  | { readonly code: 'noLinks'; readonly to: Counted }
  | { readonly code: 'noneMeets'; readonly to: Counted; readonly count: number }
  | { readonly code: 'noRecordType' }
  | { readonly code: 'noPath' }
  | { readonly code: 'noRow'; readonly saw: string }
  | { readonly code: 'emptyField'; readonly field: string }
  | { readonly code: 'onlyOwn' }
  | { readonly code: 'recordDeleted' }
  /** A contact has no address of a kind. */
  | { readonly code: 'noAddress'; readonly name: string; readonly field: string }
  /** An address to which an earlier message came back. */
  | { readonly code: 'bounced'; readonly address: string }
  /** In the words of that moment: what somebody gave as a reason, and what older journals kept. */
  | { readonly code: 'own'; readonly say: string }

/** Why a step was left out that somebody should mend. Permanent: what was left out is kept by them. */
export const MENDABLE = [
  'nobody',
  'left',
  'noPerson',
  'allAway',
  'noCompany',
  'noTerritory',
  'noAddress',
  'bounced',
] as const satisfies readonly SkipReason['code'][]
export type Mendable = (typeof MENDABLE)[number]

/** The reason in words, without the state. */
export function saySkip(reason: SkipReason): string {
  switch (reason.code) {
    case 'alreadyThere':
      return `the deal is already in ${reason.stage}`
    case 'otherPipeline':
      return `the deal is in another pipeline: ${reason.stage} (${reason.pipeline})`
    case 'backwards':
      return `moving from ${reason.from} to ${reason.to} is backwards`
    case 'openBeside':
      return `“${reason.deal}” of the same ${reason.of === 'contact' ? 'contact' : reason.of === 'either' ? 'company or contact' : 'company'} is already open there`
    case 'sameValue':
      return `${reason.field} already has that value`
    case 'setByHand':
      return `a person set ${reason.field} to ${reason.value}`
    case 'nobody':
      return `${reason.field} is empty`
    case 'left':
      return `${reason.person} has left and has no deputy`
    case 'noPerson':
      return `person “${reason.person}” no longer exists`
    case 'allAway':
      return 'everyone on the list is away or has left'
    case 'noCompany':
      return 'the record has no main company, so no territory applies'
    case 'noTerritory':
      return `no territory covers ${reason.company}`
    case 'inQueue':
      return 'a queue is no person'
    case 'owned':
      return `${reason.person} already owns it`
    case 'stillOpen':
      return `task “${reason.title}” is still open`
    case 'openThere':
      return `“${reason.deal}” is already open there`
    case 'linkedAlready':
      return `“${reason.name}” is already linked`
    case 'hasLink':
      return `already linked to ${article(NOUNS[reason.to].one)}`
    case 'nothingToMatch':
      return `${reason.field} is empty or has nothing to match`
    case 'ignored':
      return `${reason.form} is ignored`
    case 'noMatch':
      return `no ${NOUNS[reason.to].one} matches ${reason.form}`
    case 'severalMatch':
      return `${count(reason.count, reason.to)} ${plural(reason.count, 'matches', 'match')} ${reason.form}: ${
        reason.count > reason.names.length
          ? `${reason.names.join(', ')} and ${figure(reason.count - reason.names.length)} more`
          : listOf(reason.names)
      }`
    case 'nothingCame':
      return `the formula for ${reason.field} has no result because something it needs is empty`
    case 'noLinks':
      return `no ${NOUNS[reason.to].many} are linked`
    case 'noneMeets':
      return reason.count === 1
        ? `the linked ${NOUNS[reason.to].one} does not meet the conditions`
        : `none of the ${figure(reason.count)} linked ${NOUNS[reason.to].many} meets the conditions`
    case 'noRecordType':
      return 'no record type chosen'
    case 'noPath':
      return 'no path was true'
    case 'noRow':
      return `no row covers ${reason.saw}`
    case 'emptyField':
      return `${reason.field} is empty`
    case 'noAddress':
      return `${reason.name} has no ${reason.field}`
    case 'bounced':
      return `${reason.address} can’t be reached: an earlier message came back`
    case 'onlyOwn':
      return 'only the rule’s own record can be waited for'
    case 'recordDeleted':
      return 'the record was deleted'
    case 'own':
      return reason.say
  }
}

/** Why a step failed its run. */
export type FailReason =
  | { readonly code: 'unknownField'; readonly field: string }
  | { readonly code: 'unknownStage'; readonly stage: string }
  | { readonly code: 'unknownPerson'; readonly person: string }
  | { readonly code: 'noRecordType' }
  | { readonly code: 'severalRows'; readonly rows: readonly number[]; readonly saw: string }
  | { readonly code: 'recordDeleted' }
  | { readonly code: 'notCreated' }
  | { readonly code: 'refused'; readonly reason: string }
  | { readonly code: 'cannotWait'; readonly why: CannotWait }
  | { readonly code: 'notDelivered'; readonly recipient: string; readonly reason: string }
  | { readonly code: 'formula'; readonly field: string; readonly fault: FormulaFault }
  | { readonly code: 'unexpected'; readonly reason: string }

/** The reason in words, without the state. */
export function sayFail(reason: FailReason): string {
  switch (reason.code) {
    case 'unknownField':
      return `field “${reason.field}” no longer exists`
    case 'unknownStage':
      return `stage “${reason.stage}” no longer exists`
    case 'unknownPerson':
      return `person “${reason.person}” no longer exists`
    case 'noRecordType':
      return 'no record type chosen'
    case 'severalRows':
      return `rows ${listOf(reason.rows.map(String))} both cover ${reason.saw}; only one is allowed`
    case 'recordDeleted':
      return 'the record was deleted'
    case 'notCreated':
      return 'the record was not created'
    case 'refused':
      return `the change was not accepted: ${reason.reason}`
    case 'cannotWait':
      return reason.why === 'linked'
        ? 'a run can’t wait at a linked record'
        : 'a run can’t wait for a record that was deleted'
    case 'notDelivered':
      return `the email to ${reason.recipient} was not delivered: ${reason.reason}`
    case 'formula':
      return `the formula for ${reason.field} failed: ${sayFault(reason.fault)}`
    case 'unexpected':
      return `unexpected error: ${reason.reason}`
  }
}

/** Why a run ended before it was through. */
export type StopReason =
  | { readonly code: 'conditions' }
  /** It went through the rule before, and that is not over yet; in words of that moment. */
  | { readonly code: 'repeats'; readonly say: string }
  /** The same rule ran for this record in this chain already: `runId` is that run. */
  | { readonly code: 'circle'; readonly runId: number }
  /** A value that was worked out because of a change belongs to it. */
  | { readonly code: 'sameChange'; readonly runId: number }
  | { readonly code: 'tooDeep'; readonly depth: number }
  | { readonly code: 'recordGone' }
  /** Its moment came while nothing ran, longer ago than the rule makes up for. */
  | { readonly code: 'missed'; readonly atMs: number; readonly say: string }
  /** Somebody called it off before its moment came, in words of then. */
  | { readonly code: 'calledOff'; readonly say: string }
  /** Of the share that a rule leaves alone, to compare. */
  | { readonly code: 'leftAlone' }
  /** While it waited its conditions ceased to hold. */
  | { readonly code: 'noLonger' }
  /** While it waited something ended it, in words of that moment. */
  | { readonly code: 'ended'; readonly say: string }
  /** The version by which it began cannot be read. */
  | { readonly code: 'unreadable' }

/** Reasons that were kept before they were told without their state began with it. */
const bare = (say: string): string => say.replace(/^(?:(?:ended|missed): )+/, '')

/** The reason in words, without the state. */
export function sayStop(reason: StopReason): string {
  switch (reason.code) {
    case 'conditions':
      return 'conditions were not true'
    case 'circle':
      return `to prevent a loop: the rule already ran for this record in this chain (run ${reason.runId})`
    case 'sameChange':
      return `the rule already ran for this record because of the same change (run ${reason.runId})`
    case 'tooDeep':
      return `the chain is ${count(reason.depth, 'change')} deep, the limit`
    case 'recordGone':
      return 'the record was deleted'
    case 'leftAlone':
      return 'left alone to measure what happens without the rule'
    case 'noLonger':
      return 'conditions were no longer true'
    case 'unreadable':
      return 'the version of the rule that it began with can’t be read'
    case 'repeats':
    case 'missed':
    case 'calledOff':
    case 'ended':
      return bare(reason.say)
  }
}
