import { sayNotKept } from '../../core/records/retention'
import type { RecordRef } from '../../core/records/kinds'
import { dateAt } from '../../core/time/dates'
import { sayDate } from '../../core/time/say'
import { wholeFrom } from '../engine/retention'
import type { Workspace } from '../engine/workspace'

/** What is said where something of a record, or of a moment, was deleted with its age; `null` where all is there. */
export function noteOf(workspace: Workspace, of: RecordRef | number, what: 'changes' | 'values'): string | null {
  const fromMs = wholeFrom(workspace, what === 'changes' ? 'events' : 'history')
  if (fromMs === null) return null
  const atMs = typeof of === 'number' ? of : (workspace.store.records.times(of)?.createdAt ?? fromMs)
  return atMs < fromMs ? sayNotKept(what, sayDate(dateAt(fromMs, workspace.catalogue().workspace.zone))) : null
}
