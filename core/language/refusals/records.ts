import { count, listOf } from '../counts'
import { article, capital, NOUNS, type CountedObject } from '../nouns'

/** What acts on records, messages and appointments are refused with. */
export const RECORD_REFUSALS = {
  thisRecordGone: () => 'This record does not exist.',
  mergeItself: () => 'A record can’t be merged with itself.',
  mergeSame: ({ field }: { readonly field: string }) => `“${field}” is the same in both records.`,
  wasNotDeleted: ({ object, id }: { readonly object: CountedObject; readonly id: number }) =>
    `${capital(NOUNS[object].one)} ${id} was not deleted or merged.`,
  restoreFirst: ({ record }: { readonly record: string }) => `${record} has been deleted too. Restore it first.`,
  tooManyLinked: ({ most }: { readonly most: number }) =>
    `With linked records this is more than ${most} records. Choose fewer.`,
  tooFarBack: ({ from, days }: { readonly from: string; readonly days: number }) =>
    `Changes from before ${from} are not stored any more. Replay at most ${count(days, 'day')}.`,

  noSubject: () => 'Enter a subject.',
  messageOfOther: ({ id }: { readonly id: number }) => `Message ${id} is not one of this contact.`,
  contactWithoutAddress: ({ said }: { readonly said: string }) => said,
  notSent: ({ said }: { readonly said: string }) => `${said}.`,
  answerGone: ({ id }: { readonly id: number }) => `Answer ${id} does not exist.`,
  automaticReply: () => 'An automatic reply is no answer.',
  messageGone: () => 'There is no such message.',

  timeTaken: () => 'This time has just been taken. Choose another.',
  appointmentOver: () => 'This appointment can’t be changed any more.',

  activityColumns: () => 'The file needs a column “kind” and one of “email”, “contact”, “company”, “deal”.',
  activityKind: ({ raw, kinds }: { readonly raw: string; readonly kinds: readonly string[] }) =>
    `“${raw}” is not a kind of activity. Use ${listOf(kinds, 'or')}.`,
  noActivity: ({ name }: { readonly name: string }) => `There is no activity “${name}”.`,
  activityOfNone: () => 'No record given.',
  activityAhead: () => 'The time is in the future.',
  notNumberOf: ({ object, raw }: { readonly object: CountedObject; readonly raw: string }) =>
    `“${raw}” is not the number of ${article(NOUNS[object].one)}.`,
  notValues: ({ raw }: { readonly raw: string }) => `“${raw}” is not a JSON object of values.`,
  notReachable: ({ raw }: { readonly raw: string }) => `“${raw}” is not an address, phone number or domain.`,

  /** A request from outside; they are told in the middle of a sentence. */
  activityRefused: ({ said }: { readonly said: string }) => said,
  noneHas: ({ object, value }: { readonly object: CountedObject; readonly value: string }) =>
    `no ${NOUNS[object].one} has ${value}`,
  ruleNotOn: () => 'this rule is off, or has no button',
  fieldGone: () => 'this field does not exist',
} as const
