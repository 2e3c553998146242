/**
 * What people do again and again after something: an item, and another one that follows on the same record within a
 * span. Found after R. Agrawal, R. Srikant, "Mining sequential patterns" (ICDE 1995), for sequences of two, with
 * support, confidence and lift; what could be chance is left out by a binomial test with Bonferroni's correction.
 */

/** Something that happened to a record: by its name, which says field and value. */
export interface Moment {
  readonly atMs: number
  /** What happened then, at once: "stage=hp-quoted", "labels+large", "created". */
  readonly items: readonly string[]
  /** Numbers that were set then, by their fields. */
  readonly numbers: readonly (readonly [field: string, value: number])[]
  /** Whether a person did it by hand: only that can be a habit. */
  readonly byHand: boolean
}

/** All that happened to one record, the oldest first. */
export interface History {
  readonly id: number
  readonly moments: readonly Moment[]
}

/** Where a number lies beyond a line. */
export interface Beyond {
  readonly field: string
  readonly above: number
}

export interface Habit {
  /** What it follows: an item, or a number that passes a line. */
  readonly after: string | Beyond
  /** What people do then. */
  readonly then: string
  readonly withinMs: number
  /** Records to which the first happened long enough ago, and to how many of them the second followed. */
  readonly of: number
  readonly followed: number
  /** How many times as often as after anything else. */
  readonly lift: number
  /** Some of the records that it followed on, and some on which it did not. */
  readonly on: readonly number[]
  readonly not: readonly number[]
}

/** Names a habit, so that it can be put aside for good. */
export const habitName = ({ after, then }: Pick<Habit, 'after' | 'then'>): string =>
  `${typeof after === 'string' ? after : `${after.field}>${after.above}`} → ${then}`

/** The field that an item is about. */
export const fieldOf = (item: string): string => /^[^=+-]*/.exec(item)?.[0] ?? item

/** What a rule would have done over some days, beside what people did. */
export interface HabitPast {
  readonly days: number
  /** It would have done what somebody did. */
  readonly right: number
  /** It would have done what nobody did. */
  readonly tooMuch: number
  /** Somebody did it without what it follows. */
  readonly missed: number
  /** Whether the rule itself was rehearsed; counted by what it follows, where there is too much history for that. */
  readonly rehearsed?: boolean
}

/** When a rule did something, by record, the oldest first. */
export type Acts = ReadonlyMap<number, readonly number[]>

/** Goes through histories once more, and says what rules for some habits would have done since an instant. */
export class HabitReview {
  private readonly counts: { right: number; tooMuch: number; missed: number }[]

  /** `acts` are those of each habit’s rule in a rehearsal; `null` where it was not rehearsed. */
  constructor(
    private readonly habits: readonly Pick<Habit, 'after' | 'then' | 'withinMs'>[],
    private readonly acts: readonly (Acts | null)[],
    private readonly fromMs: number,
    private readonly nowMs: number,
  ) {
    this.counts = habits.map(() => ({ right: 0, tooMuch: 0, missed: 0 }))
  }

  add({ id, moments }: History): void {
    this.habits.forEach(({ after, then, withinMs }, i) => {
      const counts = this.counts[i]
      if (!counts) return
      const done = moments.filter((one) => one.byHand && one.items.includes(then))
      const answerTo = (atMs: number) => done.find((one) => one.atMs > atMs && one.atMs - atMs <= withinMs)
      const acts = this.acts[i]
      // A rehearsal begins with those days: what began before is known by what it follows.
      const earlier = moments.filter((one) => begins(one, after) && one.atMs < this.fromMs).map(({ atMs }) => atMs)
      const starts = acts
        ? [...earlier, ...(acts.get(id) ?? [])]
        : moments
            // What was done before is not done again.
            .filter((one) => begins(one, after) && (answerTo(one.atMs) !== undefined || !before(moments, one, then)))
            .map(({ atMs }) => atMs)
      const answered = new Set<Moment>()
      for (const atMs of starts) {
        const answer = answerTo(atMs)
        if (answer) answered.add(answer)
        if (atMs < this.fromMs) continue
        if (answer) counts.right++
        // Somebody may still do it where the time is not over.
        else if (atMs + withinMs <= this.nowMs) counts.tooMuch++
      }
      counts.missed += done.filter((one) => one.atMs >= this.fromMs && !answered.has(one)).length
    })
  }

  past(days: number): readonly HabitPast[] {
    return this.counts.map((counts, i) => ({ days, ...counts, rehearsed: this.acts[i] !== null }))
  }
}

const before = (moments: readonly Moment[], start: Moment, then: string): boolean =>
  moments.some(({ atMs, items }) => atMs <= start.atMs && items.includes(then))

const begins = ({ items, numbers }: Moment, after: Habit['after']): boolean =>
  typeof after === 'string'
    ? items.includes(after)
    : numbers.some(([field, value]) => field === after.field && value > after.above)
