import { nounOf } from '../language/counts'
import { sayDay, sayInstant } from '../time/say'
import { sayFail, saySkip, sayStop } from '../language/reasons'
import type { RunReport } from './handle-event'
import { endedQuietly, type StepRecord, type Wrote } from './world'
import type { Names } from '../fields/names'
import { fieldWord, sayValue } from '../fields/say-value'

/** Fields that only follow from another one need no words of their own. */
const FOLLOWING = new Set(['pipeline', 'stageSince'])

/** What one effect left behind: "stage: Sized → Quoted", "task for Rosa Amara, due 26 Nov: “Ring …”". */
export function sayWrote(wrote: Wrote, { catalogue, object }: Names, today: string): string {
  if (wrote.what === 'task') {
    return `created task for ${wrote.assigneeId === null ? `the ${wrote.queue ?? ''} queue` : (catalogue.person(wrote.assigneeId)?.name ?? wrote.assigneeId)}, due ${sayDay(wrote.due, today)}: “${wrote.title}”`
  }
  if (wrote.what === 'way' || wrote.what === 'gave') return wrote.say
  if (wrote.what === 'stop') return `stopped: ${wrote.because}`
  if (wrote.what === 'waited') return wrote.say || `waited until ${sayInstant(wrote.toMs, catalogue.workspace.zone)}`
  if (wrote.what === 'planned') return `${wrote.say}: ${sayInstant(wrote.dueMs, catalogue.workspace.zone)}`
  if (wrote.what === 'ended') return `ended ${wrote.runs} waiting ${nounOf(wrote.runs, 'run')}: ${wrote.because}`
  if (wrote.what === 'link') return `linked to ${wrote.name}`
  if (wrote.what === 'unlink') return `unlinked from ${wrote.name}`
  if (wrote.what === 'created') return `created ${wrote.ref.object} “${wrote.name}”`
  if (wrote.what === 'notice')
    return `notified ${catalogue.person(wrote.personId)?.name ?? wrote.personId}: “${wrote.subject}”`
  if (wrote.what === 'message') return `emailed ${wrote.recipient}`
  const of = wrote.ref?.object ?? object
  return wrote.changes
    .filter((change) => !FOLLOWING.has(change.field))
    .map((change) => {
      const field = catalogue.field(of, change.field)
      return field
        ? `${fieldWord(field)}: ${sayValue(change.old, field, catalogue)} → ${sayValue(change.new, field, catalogue)}`
        : change.field
    })
    .join('; ')
}

/** "waits until 3 Dec 2026, 9:00". */
export const sayWait = (dueMs: number | null, zone: string): string =>
  dueMs === null ? 'waiting, no time limit' : `waiting until ${sayInstant(dueMs, zone)}`

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
