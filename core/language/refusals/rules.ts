import { capital, NOUNS, type CountedObject } from '../nouns'

/** What a rule, its triggers, conditions and steps are refused with, and a record that they name. */
export const RULE_REFUSALS = {
  /** Where in a formula something is wrong, from the first letter on, and what. */
  formula: ({ from, to, said }: { readonly from: number; readonly to: number; readonly said: string }) =>
    `${from + 1}–${to}: ${said}`,
  /** A formula that cannot be read at the moment when it is worked out. */
  unreadFormula: ({ said }: { readonly said: string }) => said,
  endBeforeStart: () => 'The end time must be after the start time.',
  noSuchQuestion: () => 'There is no such question.',
  leastPoints: () => 'Enter at least 1 point.',
  noTimeGiven: ({ field }: { readonly field: string }) => `“${field}” has no time. Enter one.`,
  timeRepeats: ({ field }: { readonly field: string }) => `“${field}” has a time. Only dates without time can repeat.`,
  recurrence: ({ said }: { readonly said: string }) => said,
  noSlash: () => 'A path begins with a slash.',
  notJson: ({ said }: { readonly said: string }) => `No JSON: ${said}.`,
  sameReading: () => 'Two readings have the same name.',
  noStepsToPaste: () => 'The clipboard has no steps.',
  cannotPaste: ({ said }: { readonly said: string }) => `These steps can’t be pasted here: ${said}.`,
  stepNotFor: ({ object }: { readonly object: CountedObject }) =>
    `One of the steps is not available for ${NOUNS[object].many}.`,
  recordGone: ({ object, id }: { readonly object: CountedObject; readonly id: number }) =>
    `${capital(NOUNS[object].one)} ${id} does not exist.`,
  /** A document that has not the form it should have: where, and what is wrong there. */
  shape: ({ at, said }: { readonly at: string; readonly said: string }) => (at === '' ? said : `${at}: ${said}`),
} as const
