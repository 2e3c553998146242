import { count, plural } from '../counts'
import { atPlace, type Answer } from './answer'

const changed = (detail: string): Answer => ({ status: 409, title: 'Changed by someone else', detail })
const conflict = (title: string, detail: string): Answer => ({ status: 409, title, detail })
const notSaved = (detail: string): Answer => ({ status: 422, title: 'Not saved', detail })

const UNFINISHED = {
  rehearse: 'Finish the rule before rehearsing it.',
  forecast: 'Finish the rule before forecasting it.',
  switchOn: 'Finish the rule before switching it on.',
} as const

/** Rules, their versions, test cases and jobs. */
export const RULE_ANSWERS = {
  /** The places say what is missing. */
  unfinished: ({ to }: { readonly to: keyof typeof UNFINISHED }): Answer => ({
    status: 422,
    title: 'Not finished',
    detail: UNFINISHED[to],
  }),
  draftUnreadable: ({ said }: { readonly said: string }) =>
    conflict(
      'Draft can’t be read',
      `Restore a version first, so that nothing is lost. The draft can’t be read: ${said}`,
    ),
  versionUnreadable: ({ version, said }: { readonly version: number; readonly said: string }): Answer => ({
    status: 422,
    title: 'Version not restored',
    detail: `Version ${version} can’t be read: ${said}`,
  }),
  recordTypeFixed: () => notSaved('The record type of a rule can’t change once it has been switched on.'),
  ruleChanged: ({ who }: { readonly who: string }) =>
    changed(`${who} saved this rule after you opened it. Reload to see the changes.`),
  ruleChangedMeanwhile: () => changed('The rule was changed while its test cases ran. Try again.'),
  archiveFirst: () => notSaved('Archive the rule first.'),
  ruleHasRuns: () => notSaved('This rule has been on and has runs. It can be archived but not deleted.'),
  ruleIsOff: () => conflict('Rule is off', 'Switch the rule on first.'),
  ruleNotPaused: () => conflict('Not paused', 'This rule is not paused.'),
  noExisting: (): Answer => ({
    status: 422,
    title: 'No existing records',
    detail:
      'Its triggers only start when something happens, so no existing records can be run. Choose records on the Records page instead.',
    places: [{ path: 'backfill', text: 'No trigger of the rule has existing records.' }],
  }),
  /** The places name each test case and its first difference. */
  casesFailed: ({ failed }: { readonly failed: number }): Answer => ({
    status: 409,
    title: 'Test cases failed',
    detail: `${count(failed, 'testCase')} of the rule ${plural(failed, 'gives', 'give')} a different result. Review the differences, or publish anyway.`,
  }),
  nothingToCompare: ({ rule }: { readonly rule: number }) =>
    atPlace('compare', `Rule ${rule} has no published version.`, 'Nothing to compare'),

  notMonth: ({ raw }: { readonly raw: string }) =>
    atPlace('value', `“${raw}” is not a month. Write it like 2026-11.`, 'Not a month'),
  noFigure: ({ figure, by }: { readonly figure: string; readonly by: string | null }) =>
    atPlace(
      'figure',
      by === null ? `There is no figure “${figure}”.` : `The figure “${figure}” is not counted by ${by}.`,
      'No such figure',
    ),
  suggestionOutdated: () => conflict('Not possible', 'A field that this was about has changed. Search again.'),

  jobNotRunning: () => conflict('Not running', 'This job is not running.'),
  jobDone: () => conflict('Not stopped', 'This job is done.'),
  jobRunning: () => conflict('Not stopped', 'This job is already running.'),
} as const
