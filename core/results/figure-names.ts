/** Figures whose records can be listed, by the name under which a screen asks for them. */
export const LISTED_FIGURES = [
  'reached',
  'missed',
  'within',
  'already',
  'tasksMade',
  'tasksDone',
  'tasksLate',
  'tasksPostponed',
  'tasksWithdrawn',
  'sent',
  'answered',
  'bounced',
  'failed',
  'optedOut',
] as const
export type ListedFigure = (typeof LISTED_FIGURES)[number]

export const FIGURE_WORDS: Readonly<Record<ListedFigure, string>> = {
  reached: 'Reached the target',
  missed: 'Did not reach the target',
  within: 'Still within their time',
  already: 'Met the target before',
  tasksMade: 'Tasks created',
  tasksDone: 'Tasks done',
  tasksLate: 'Done late',
  tasksPostponed: 'Postponed',
  tasksWithdrawn: 'Withdrawn',
  sent: 'Sent',
  answered: 'Answered',
  bounced: 'Bounced',
  failed: 'Not sent',
  optedOut: 'Opted out',
}
