import type { Value } from '../language/value'
import type { WorkCalendar } from '../time/calendar'
import type { Subject } from './subject'

/** The moment a condition is asked at. Comes from the world, never from the machine's clock. */
export interface Moment {
  readonly nowMs: number
  /** The date of `nowMs` in `zone`. */
  readonly today: string
  readonly zone: string
  readonly calendar: WorkCalendar
}

export type Test = (value: Value, moment: Moment, subject: Subject) => boolean
