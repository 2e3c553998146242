/** How a version is published. */
export interface PublishChoice {
  readonly note: string
  /** Whether the records that match now go through. */
  readonly backfill: boolean
  /** Whether those for which the rule did something before go through once more. */
  readonly again: boolean
  /** For dates: how many days ago they may have passed. */
  readonly passedDays: number
  /** Whether cases that come otherwise are meant to. */
  readonly anyway: boolean
  /** What becomes of runs that wait in the version before. */
  readonly waiting: 'finish' | 'move' | 'end'
}
