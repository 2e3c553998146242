import { sayInstant } from '../time/say'
import { sayFail, saySkip, sayStop } from '../language/reasons'
import type { RunReport } from './handle-event'
import { sayWrote } from '../effects/wrote'
import { endedQuietly, type StepRecord } from './world'
import type { Names } from '../fields/names'

/**
 * "waiting until 3 Dec 2026, 9:00"; of a wait with two ends "waiting until it is done, at most until 3 Dec 2026, 9:00".
 * `until` is what it waits for beside its moment.
 */
export function sayWait(dueMs: number | null, zone: string, until: string | null = null): string {
  const moment = dueMs === null ? null : sayInstant(dueMs, zone)
  if (until !== null) return `waiting until ${until}${moment === null ? '' : `, at most until ${moment}`}`
  return moment === null ? 'waiting, no time limit' : `waiting until ${moment}`
}

export function sayStepRecord(record: StepRecord, names: Names, today: string): string {
  switch (record.state) {
    case 'done':
      return (
        record.wrote
          .map((wrote) => sayWrote(wrote, names, today))
          .filter(Boolean)
          .join('; ') || 'nothing to do'
      )
    case 'skipped':
      return `skipped: ${saySkip(record.reason)}`
    case 'failed':
      return `failed: ${sayFail(record.reason)}`
  }
}

/** What a rule did, in one line; `null` when there is nothing a person on the spot needs to know. */
export function sayReport(
  report: Pick<RunReport, 'state' | 'stop' | 'steps'>,
  names: Names,
  today: string,
): string | null {
  if (report.stop) return endedQuietly(report.stop) ? null : sayStop(report.stop)
  // One that only began to wait has nothing to tell yet.
  return report.steps.map((step) => sayStepRecord(step, names, today)).join('; ') || null
}
