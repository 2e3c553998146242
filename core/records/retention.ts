import { count } from '../language/counts'

/** What is kept for how long: the kinds, what they are called, and how long each stays where nobody says otherwise. */

export const RETENTION_KINDS = [
  'keptOutRuns',
  'history',
  'events',
  'messages',
  'conversations',
  'notices',
  'activities',
  'visitors',
  'importFiles',
] as const
export type RetentionKind = (typeof RETENTION_KINDS)[number]

interface RetentionSpec {
  readonly title: string
  /** What it is, and what stays whatever its age. */
  readonly about: string
  /** Days that it stays where nobody says otherwise; `null` for always. */
  readonly usual: number | null
  /** The fewest days one can choose. */
  readonly least: number
}

/** The longest time that can be chosen, in days. */
export const RETENTION_MOST = 3650

export const RETENTION: Readonly<Record<RetentionKind, RetentionSpec>> = {
  keptOutRuns: {
    title: 'Rule runs',
    about: 'Runs that were stopped by their conditions are deleted after this time. All other runs are always kept.',
    usual: 90,
    least: 30,
  },
  history: {
    title: 'Field history',
    about: 'Earlier values of fields, with who set them. The last change of every field is always kept.',
    usual: 730,
    least: 90,
  },
  events: {
    title: 'Change log',
    about:
      'Every change, in order. A change is kept as long as a run, a field history entry or a deleted record needs it.',
    usual: 365,
    least: 90,
  },
  messages: {
    title: 'Sent emails',
    about: 'Emails that were delivered or given up. The run that sent one is always kept.',
    usual: 365,
    least: 30,
  },
  conversations: {
    title: 'Messages',
    about:
      'Messages to contacts and their answers. The activity that one was sent or answered stays with the activities.',
    usual: 1095,
    least: 30,
  },
  notices: {
    title: 'Notifications',
    about: 'What people were notified of in the app, read or not.',
    usual: 90,
    least: 7,
  },
  activities: {
    title: 'Activities',
    about: 'Calls, visits and other activities of records. Scores are recalculated without those that are deleted.',
    usual: null,
    least: 90,
  },
  visitors: {
    title: 'Unknown visitors',
    about: 'What visitors of your website did as long as no one knows who they are.',
    usual: 90,
    least: 7,
  },
  importFiles: {
    title: 'Imported files',
    about: 'Contents of files whose import is finished. Rejected rows can be downloaded as long as the file is kept.',
    usual: 90,
    least: 7,
  },
}

/** "90 days", "1 year", "always"; years where they come out even. */
export const sayKeeping = (days: number | null): string =>
  days === null ? 'always' : days % 365 === 0 ? count(days / 365, 'year') : count(days, 'day')

/** "3.2 MB", in steps of a thousand. */
export function sayBytes(bytes: number): string {
  const at = [1e9, 1e6].find((size) => bytes >= size) ?? 1e3
  return `${(bytes / at).toFixed(at === 1e3 ? 0 : 1)} ${at === 1e9 ? 'GB' : at === 1e6 ? 'MB' : 'kB'}`
}

/** The instant up to which nothing of a kind has to be kept; `null` where it stays for ever. */
export const cutOf = (days: number | null, nowMs: number): number | null =>
  days === null ? null : nowMs - days * 86_400_000

/** What is said where something is looked for that was deleted with its age; `from` is a date in words. */
export const sayNotKept = (what: 'changes' | 'values', from: string): string =>
  what === 'changes'
    ? `Changes from before ${from} are not stored any more, except the last one of each field.`
    : `Values from before ${from} are not stored any more, except the last one.`
