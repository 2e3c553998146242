import type { ChangeEvent } from '../records/record'
import { noticeAppointments } from './appointments'
import { noticeTimers, type ClockWorld } from './clockwork'
import { noticeDerived } from './derive'
import { noticeGoals } from './goals'
import { handleEvent, type RunReport } from './handle-event'
import type { Matcher } from './matcher'
import { noticeWaits } from './wake'

/** What one event led to. */
export interface Processed {
  /** Runs that waited and went on. */
  readonly woken: readonly RunReport[]
  /** Runs that it started. */
  readonly started: readonly RunReport[]
}

/**
 * Takes one event through everything that hangs on it, live and in a rehearsal alike: values that are worked out from
 * others come first, then timers that it moves and what people did with an appointment, then what waited for it, then
 * the rules it starts. The caller commits.
 *
 * `waiting` may be false where nothing waits anywhere, which saves a look; `guarded` is as in `handleEvent`.
 */
export function processEvent(
  world: ClockWorld,
  matcher: Matcher,
  event: ChangeEvent,
  { guarded = true, waiting = true }: { readonly guarded?: boolean; readonly waiting?: boolean } = {},
): Processed {
  noticeDerived(world, event)
  noticeTimers(world, matcher, event)
  noticeAppointments(world, event)
  noticeGoals(world, matcher, event)
  const woken = waiting ? noticeWaits(world, event) : []
  return { woken, started: handleEvent(world, matcher, event, guarded) }
}
